import { mount } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import ErrorPage from '~/error.vue'

const page = (statusCode: number, message: string) =>
  mount(ErrorPage, { props: { error: { statusCode, message } as never } })

describe('the page of errors', () => {
  it('says which address has no page, and leads back', () => {
    history.replaceState(null, '', '/no/such-page')
    const wrapper = page(404, 'Page not found: /no/such-page')
    expect(wrapper.get('h1').text()).toBe('There is no such page')
    expect(wrapper.text()).toContain('Nothing of Dusk Reel lies at /no/such-page.')
    expect(wrapper.get('a').attributes('href')).toBe('/')
    expect(wrapper.find('button').exists()).toBe(false)
    history.replaceState(null, '', '/')
  })

  it('says of one that broke what happened to the work, and loads it again', async () => {
    const reload = vi.fn()
    vi.stubGlobal('location', { pathname: '/projects/p1', reload })
    const wrapper = page(500, 'canvas is null')
    expect(wrapper.text()).toContain('edits that were not sent yet wait in this browser')
    expect(wrapper.get('code').text()).toBe('canvas is null')
    await wrapper.get('button').trigger('click')
    expect(reload).toHaveBeenCalledOnce()
    vi.unstubAllGlobals()
  })
})
