/**
 * Whether a hold is on what lies at a spot of its lot: one on the lot reaches all of it, one on a container or a serial number that alone.
 * What lies loose is in no container.
 */
export function holdReaches(hold: { readonly containerId: string | null }, spot: { readonly containerId: string | null }): boolean {
  return hold.containerId === null || hold.containerId === spot.containerId
}
