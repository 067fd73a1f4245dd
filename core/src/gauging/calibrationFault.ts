/** How a gauge stands to its calibration: the last day on which it is good, the interval in months (null: it needs none), the last one. */
export interface Calibration {
  readonly dueOn: string | null
  readonly intervalMonths: number | null
  readonly calibratedOn: string | null
}

/** What is wrong with the calibration of a gauge on a day: it needs one and never had one, or is over its day; null where nothing is. */
export function calibrationFault({ dueOn, intervalMonths, calibratedOn }: Calibration, day: string): 'neverCalibrated' | 'overdue' | null {
  if (intervalMonths !== null && calibratedOn === null) return 'neverCalibrated'
  return dueOn !== null && dueOn < day ? 'overdue' : null
}
