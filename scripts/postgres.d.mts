/** Whether there is a PostgreSQL server here, after installing it where that may be done. */
export function hasPostgres(): boolean
/** Starts a server of its own; gives its address and what stops it and takes its folder away. */
export function startPostgres(): Promise<{ readonly address: string; stop(): Promise<void> }>
