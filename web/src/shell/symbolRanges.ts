/** What the main fonts lack, from and to: the micro sign, Greek letters, arrows, operators, technical signs, shapes, the marks. */
export const symbolRanges: readonly (readonly [from: number, to: number])[] = [
  [0x00b5, 0x00b5],
  [0x0370, 0x03ff],
  [0x2190, 0x21ff],
  [0x2200, 0x22ff],
  [0x2300, 0x23ff],
  [0x25a0, 0x25ff],
  [0x2700, 0x27bf],
]
