/** The colour of a body that was given none, as files carry it. */
export const PLAIN_COLOR = '#d9d2c0'
