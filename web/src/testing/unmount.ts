import { disableAutoUnmount, enableAutoUnmount } from '@vue/test-utils'
import { afterEach } from 'vitest'

/** What a test has mounted goes with it: files share what they loaded, and a page that stays would go on in the next one's. */
disableAutoUnmount()
enableAutoUnmount(afterEach)
