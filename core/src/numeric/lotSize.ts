import { CoreError } from '../errors'

/** Largest quantity of one lot. Beyond it a typing error is far likelier than a lot. */
export const largestLot = 1_000_000_000

/**
 * Refuses a lot size that is not a whole number from 1 to 1,000,000,000.
 * @throws {CoreError} `lot_size_invalid`.
 */
export function checkLotSize(lotSize: number): void {
  if (!Number.isSafeInteger(lotSize) || lotSize < 1 || lotSize > largestLot) {
    throw new CoreError('lot_size_invalid', `Received a lot size of ${lotSize}. It is a whole number from 1 to ${largestLot}.`, {
      received: lotSize,
      largest: largestLot,
    })
  }
}
