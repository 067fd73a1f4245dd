/**
 * The parts of several lines of goods, each once, in the order of their first lines, as SQL: `SP-50, SP-31`.
 * @param position what orders the lines
 * @param lines table of the lines, with its alias
 * @param which condition on the lines, by the row that they belong to
 */
export const partCodes = (position: string, lines: string, partId: string, which: string): string =>
  `COALESCE((SELECT string_agg(part_of.code, ', ' ORDER BY part_of.first) FROM (
    SELECT t.code, MIN(${position}) AS first FROM ${lines} JOIN part t ON t.id = ${partId} WHERE ${which} GROUP BY t.code) part_of), '')`
