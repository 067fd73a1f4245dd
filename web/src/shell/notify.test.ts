import { mount } from '@vue/test-utils'
import { defineComponent, h, nextTick, onMounted, onUnmounted, watch } from 'vue'
import { expect, it, vi } from 'vitest'
import NoticeBar from './NoticeBar.vue'
import { notice, notify } from './notify'

/** As the library's bar does: its time begins when it is shown, and not when its words change. */
const VSnackbar = defineComponent({
  props: { modelValue: Boolean, timeout: { type: Number, required: true } },
  emits: ['update:modelValue'],
  setup(props, { emit, slots }) {
    const begun: number[] = []
    onUnmounted(() => begun.forEach(clearTimeout))
    const begin = () => void (props.modelValue && begun.push(window.setTimeout(() => emit('update:modelValue', false), props.timeout)))
    onMounted(begin)
    watch(() => props.modelValue, begin)
    return () => h('div', slots['default']?.())
  },
})

it('a message has its whole time, also one that comes while another is shown', async () => {
  vi.useFakeTimers()
  const bar = mount(NoticeBar, { global: { components: { VSnackbar } } })
  const passes = async (ms: number) => {
    await vi.advanceTimersByTimeAsync(ms)
    await nextTick()
  }
  notify('CP-1 hangs at Forge.')
  await passes(4_000)
  notify('CP-2 hangs at Shipping.')
  await passes(4_000)
  expect([notice.isShown, notice.text]).toEqual([true, 'CP-2 hangs at Shipping.'])
  await passes(1_500)
  expect(notice.isShown).toBe(false)
  bar.unmount()
  vi.useRealTimers()
})
