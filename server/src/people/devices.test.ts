import { endpoints } from '@nemawashi/contract'
import { expect, it } from 'vitest'
import { password, startPlant } from '../testing/plant'

it('a device is known by a sealed cookie of its own, to the person who signed in on it and to nobody else', async () => {
  const plant = await startPlant()
  try {
    await plant.as('inspector')
    await plant.as('auditor')
    const signIn = async (signInName: string, secret: string, cookie = '') => {
      const response = await fetch(`${plant.base}/api/v1/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', cookie },
        body: JSON.stringify({ signInName, password: secret }),
      })
      const device = response.headers.getSetCookie().find((one) => one.startsWith('nemawashi_device=')) ?? ''
      return { status: response.status, device }
    }
    const { device } = await signIn('inspector', password)
    expect(device).toMatch(/HttpOnly; SameSite=Strict/)
    const cookie = device.split(';')[0] ?? ''
    for (let i = 0; i < 12; i++) await signIn('inspector', `guess ${i}`)
    // The stranger sits at the same address: all but the known device wait.
    expect((await signIn('inspector', password)).status).toBe(429)
    expect((await signIn('inspector', password, `${cookie}x`)).status).toBe(429)
    expect((await signIn('inspector', password, cookie)).status).toBe(200)
    for (let i = 0; i < 12; i++) await signIn('auditor', `guess ${i}`)
    expect((await signIn('auditor', password, cookie)).status).toBe(429)
    expect((await plant.administrator.call(endpoints.people.getSession, {})).person?.name).toBe('Admin')
  } finally {
    await plant.stop()
  }
})
