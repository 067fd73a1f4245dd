/** Whether the time by which an inspection is due has passed; what has none is never late. */
export const isLate = (dueAt: string | null): boolean => dueAt !== null && Date.parse(dueAt) < Date.now()
