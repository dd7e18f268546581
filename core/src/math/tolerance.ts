/** Two points nearer than this are one point in a half-section, mm. */
export const POINT = 1e-6
/** A B-spline that stands in for another curve (an offset) stays this near to it, mm. */
export const FIT = 1e-4
/** Directions nearer than this are one direction, rad. */
export const ANGLE = 1e-4
/** The general modelling tolerance, mm. */
export const MODEL = 1e-4
