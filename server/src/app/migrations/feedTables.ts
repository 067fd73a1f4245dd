import { column, key, maybe, type Table } from './tables'

/** What came with the order feed: the same in a file and on a server. */
export const feedTables: readonly Table[] = [
  {
    name: 'feed_event',
    primary: 'PK_4c4d0e7b969b639a75d02e274ab',
    columns: [
      column('id'),
      column('key'),
      column('kind'),
      column('body'),
      maybe('sent'),
      column('state'),
      maybe('code'),
      column('facts'),
      column('reason'),
      maybe('subject_kind'),
      maybe('subject_id'),
      maybe('subject_code'),
      column('received_at'),
      maybe('taken_at'),
      key('person_id', 'person', '6c8792b2e1a3e097b792ff09f1f'),
      column('version', 'integer'),
    ],
    uniques: { UQ_12762df73a6aabc06958ab45a2b: ['key'] },
    indices: { feed_event_state: ['state', 'received_at', 'id'], feed_event_received: ['received_at', 'id'] },
  },
  {
    name: 'notice',
    primary: 'PK_705062b14410ff1a04998f86d72',
    columns: [
      column('id'),
      column('kind'),
      column('about'),
      column('body'),
      column('at'),
      column('tries', 'integer'),
      maybe('next_at'),
      maybe('delivered_at'),
      column('last_answer'),
    ],
    uniques: {},
    indices: { notice_next: ['next_at', 'at'], notice_at: ['at', 'id'] },
  },
]
