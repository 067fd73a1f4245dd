import { endpoints } from '@nemawashi/contract'
import type { Kernel } from '../../kernel/kernel'
import type { Routes } from '../../kernel/routes'
import { pastOccasions } from './pastOccasions'
import { rehearse } from './rehearse'

const { attach } = endpoints

export function rehearsalRoutes(routes: Routes, { clock }: Kernel): void {
  routes.readLong(attach.rehearse, (reader, { query }) => rehearse(reader, query, clock.now()))
  routes.readLong(attach.getPastOccasions, (reader, { query }) => pastOccasions(reader, query, clock.now()))
}
