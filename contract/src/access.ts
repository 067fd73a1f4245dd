/** Who receives and puts away. */
export const clerk = ['receivingClerk', 'qualityEngineer', 'administrator'] as const
