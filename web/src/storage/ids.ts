import { nanoid } from 'nanoid'

/** A new id for a workpiece on the shelf: letters and digits only. */
export const newWorkpieceId = (): string => `w${nanoid(10).replace(/[^A-Za-z0-9]/g, 'x')}`
