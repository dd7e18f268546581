/** Names every drawing knows: its axis, and the origin of its plane. */
export const AXIS = 'axis'
export const ORIGIN = 'origin'
