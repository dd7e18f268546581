export { FONT_NAMES, type FontName, type Letter, setLine } from './font'
export { type Placed, placeLetters, type TextWay } from './place'
