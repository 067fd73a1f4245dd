import type { Access } from '../wire/endpoint'

/** Who answers for the gauges: lets a locked one go on, retires one, gives one its key. */
export const gaugeKeepers = ['qualityEngineer', 'qualityManager'] as const satisfies Access
