/**
 * The sum of quantities as SQL, each in its unit itself and not in steps of it: where a list adds up what several parts have.
 * @param unit the SQL for what the part is counted in
 */
export const sumInUnits = (quantity: string, unit: string): string =>
  `CAST(ROUND(COALESCE(SUM(${quantity} * CASE WHEN ${unit} LIKE '0.001 %' THEN 0.001 WHEN ${unit} LIKE '0.01 %' THEN 0.01
    WHEN ${unit} LIKE '0.1 %' THEN 0.1 ELSE 1 END), 0), 3) AS double precision)`
