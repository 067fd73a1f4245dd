import { endpoints } from '@nemawashi/contract'
import type { Routes } from '../../kernel/routes'
import { dismissEvent, loadEvent, playAgain, takeEvents } from './feed'
import { feedFilters, feedList, noticeList } from './repository'

const { run } = endpoints

export function feedRoutes(routes: Routes): void {
  routes.list(run.listFeedEvents, feedList, feedFilters)
  routes.list(run.listNotices, noticeList)
  routes.read(run.getFeedEvent, (reader, { params }) => loadEvent(reader, params.id))
  routes.changeEach(run.sendEvents, async (each, { body }) => ({ answers: await takeEvents(each, body.events) }))
  routes.changeEach(run.playAgain, async (each, { params, body }) => {
    await playAgain(each, params.id, body)
    return each((work) => {
      work.nothingChanged()
      return loadEvent(work.manager, params.id)
    })
  })
  routes.change(run.dismissEvent, (work, { params, body }) => dismissEvent(work, params.id, body))
}
