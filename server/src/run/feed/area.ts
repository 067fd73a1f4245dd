import type { Area } from '../../kernel/area'
import { FeedEventEntity, NoticeEntity } from './entities'
import { emptyingInbox } from './inbox'
import { subscribeWebhooks, sendingWebhooks } from './webhooks'
import { feedRoutes } from './routes'

/** What another system says of orders and goods, by the door or by files, and what it is told. */
export const feed: Area = {
  name: 'run/feed',
  entities: [FeedEventEntity, NoticeEntity],
  routes: feedRoutes,
  subjects: {
    'feed event': { table: 'feed_event', column: 'key' },
    notice: { table: 'notice', column: 'about' },
  },
  subscribe: subscribeWebhooks,
  jobs: [sendingWebhooks(), emptyingInbox()],
}
