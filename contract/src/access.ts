/** Who receives and puts away. */
export const clerk = ['receivingClerk', 'qualityEngineer', 'administrator'] as const
/** Who works at the bench, on whatever is to be inspected. */
export const bench = ['inspector', 'qualityEngineer'] as const
