import { beforeEach, describe, expect, it, vi } from 'vitest'
import { mount } from '@vue/test-utils'
import { defineComponent, nextTick, ref } from 'vue'
import { useKeptFocus } from '~/features/desk/useKeptFocus'
import { useRoom } from '~/features/desk/useRoom'
import GalleryDrawer from '~/features/gallery/GalleryDrawer.vue'
import { detailSize, PictureDetail } from '~/features/player/pictureDetail'
import RoomMenu from '~/features/desk/RoomMenu.vue'
import { codecName } from '~/features/ui/sizes'
import { useGenerated } from '~/features/titles/useGenerated'
import { useTitles } from '~/features/titles/titlesStore'
import { openDesk } from './tools/desk'
import { called } from './tools/fields'

const pulled = (...sizes: number[]) => ({ event: new Event('mouseup'), panes: sizes.map((size) => ({ size })) })

beforeEach(() => localStorage.clear())

describe('the room of the desk', () => {
  it('remembers what the person pulled, and nothing that moved by itself', async () => {
    const studio = await openDesk()
    const room = studio.within(() => useRoom(ref(800), () => false))
    room.keepUpper({ panes: [{ size: 70 }, { size: 30 }] })
    expect(room.upper.value).toBe(54)
    room.keepUpper(pulled(60, 40))
    room.keepSides(pulled(25, 55, 20), true)
    await nextTick()
    const again = studio.within(() => useRoom(ref(800), () => false))
    expect(again.sizes.value).toMatchObject({ upper: 60, drawer: 25, details: 20 })
    // With the drawer closed there is no first pane to remember.
    room.keepSides(pulled(78, 22), false)
    expect(room.sizes.value).toMatchObject({ drawer: 25, details: 22 })
    expect(room.middle(true) + 25 + 22).toBe(100)
  })

  it('gives a source that is watched room out of both halves, and takes it back', async () => {
    const studio = await openDesk()
    const open = ref(false)
    const room = studio.within(() => useRoom(ref(720), () => open.value))
    expect(room.upper.value).toBe(54)
    open.value = true
    expect(room.upper.value).toBe(44)
    room.keepUpper(pulled(40, 60))
    open.value = false
    expect(room.upper.value).toBe(50)
  })

  it('keeps arrangements under names, chosen and forgotten from the menu', async () => {
    const studio = await openDesk()
    const room = studio.within(() => useRoom(ref(800), () => false))
    room.keepUpper(pulled(62, 38))
    studio.desk.drawer = null
    const menu = studio.show(RoomMenu, { room })
    await menu.get('button').trigger('click')
    await menu.get('input').setValue('Sound work')
    await menu.get('form').trigger('submit')
    room.reset()
    expect([room.upper.value, studio.desk.drawer]).toEqual([54, 'footage'])
    const button = (name: string) => menu.findAll('button').find((one) => one.text() === name)!
    await button('Sound work').trigger('click')
    expect([room.upper.value, studio.desk.drawer]).toEqual([62, null])
    room.remove('Sound work')
    expect(room.arrangements.value).toEqual([])
  })

  it('made calm closes what has no button then', async () => {
    const studio = await openDesk()
    const room = studio.within(() => useRoom(ref(800), () => false))
    studio.desk.drawer = 'effects'
    studio.desk.tool = 'slip'
    const menu = studio.show(RoomMenu, { room })
    await menu.get('button').trigger('click')
    const calm = menu.findAll('button').find((one) => one.text().startsWith('Calm'))!
    await calm.trigger('click')
    expect([studio.desk.calm, studio.desk.drawer, studio.desk.tool]).toEqual([true, 'footage', 'move'])
    studio.desk.calm = false
  })
})

describe('a title begun on the picture', () => {
  it('and left with nothing typed is as if it had never been', async () => {
    const studio = await openDesk()
    const act = studio.within(useGenerated)
    const titles = studio.within(useTitles)
    act.type([0, 0])
    await nextTick()
    const made = titles.editing!
    expect(studio.project.document!.clips[made]).toBeDefined()
    titles.editing = null
    await nextTick()
    expect(studio.project.document!.clips[made]).toBeUndefined()
    expect(studio.project.history.done).toEqual([])
  })

  it('stays once something was typed', async () => {
    const studio = await openDesk()
    const act = studio.within(useGenerated)
    const titles = studio.within(useTitles)
    act.type()
    await nextTick()
    const made = titles.editing!
    studio.project.perform({ type: 'setTitle', clipIds: [made], set: { text: 'Dusk' } })
    titles.editing = null
    await nextTick()
    expect(studio.project.document!.clips[made]).toBeDefined()
  })
})

describe('names of codecs', () => {
  it('are those that people use', () => {
    const names = ['h264', 'hevc', 'pcm_s16le', 'prores', 'vp9'].map(codecName)
    expect(names).toEqual(['H.264', 'H.265', 'uncompressed', 'ProRes', 'VP9'])
  })
})

describe('a picture looked at closely', () => {
  const hd = { width: 1920, height: 1080 }
  it('is drawn larger only where previews have too few pixels, and never endlessly', () => {
    expect([0, 0.3, 0.5].map((scale) => detailSize(hd, scale))).toEqual([null, null, null])
    expect(detailSize(hd, 1)).toEqual(hd)
    expect(detailSize(hd, 2)).toEqual({ width: 3840, height: 2160 })
    expect(detailSize({ width: 8000, height: 2000 }, 2)!.width).toBe(4096)
    expect(detailSize({ width: 640, height: 360 }, 1)).toBeNull()
  })

  it('is sharpened once it stands, and not when it went on meanwhile', () => {
    vi.useFakeTimers()
    const sharpened: number[] = []
    const detail = new PictureDetail((tick) => sharpened.push(tick))
    detail.drawn(1)
    vi.advanceTimersByTime(1000)
    detail.set(hd, 1)
    detail.drawn(2)
    vi.advanceTimersByTime(100)
    detail.drawn(3)
    vi.advanceTimersByTime(1000)
    detail.drawn(4)
    detail.rest()
    vi.advanceTimersByTime(1000)
    expect(sharpened).toEqual([3])
    vi.useRealTimers()
  })
})

describe('the focus', () => {
  it('goes to the part of the desk that what had it was in, and nowhere while it is still there', async () => {
    vi.useFakeTimers()
    document.body.innerHTML = '<section tabindex="-1" data-focus-home><button id="a"></button></section><i id="b"></i>'
    const wrapper = mount(defineComponent({ setup: () => (useKeptFocus(), () => null) }))
    const clip = document.getElementById('a')!
    const press = () => {
      clip.dispatchEvent(new KeyboardEvent('keydown', { key: 'Delete', bubbles: true }))
      vi.advanceTimersByTime(200)
    }
    clip.focus()
    press()
    expect(document.activeElement).toBe(clip)
    clip.addEventListener('keydown', () => {
      clip.blur()
      clip.remove()
    })
    press()
    expect(document.activeElement).toBe(document.querySelector('[data-focus-home]'))
    wrapper.unmount()
    vi.useRealTimers()
  })
})

describe('a gallery', () => {
  it('folds its hints and filters once a long list is scrolled, and takes the whole height by its button', async () => {
    const studio = await openDesk()
    const slots = { chips: () => 'chips', filters: () => 'filters', default: () => 'list' }
    const wrapper = mount(GalleryDrawer, { props: { name: 'Titles' }, slots })
    const list = wrapper.find('section > div').element
    const scrollTo = async (top: number, height: number) => {
      Object.defineProperties(list, {
        scrollHeight: { value: height, configurable: true },
        clientHeight: { value: 300, configurable: true },
        scrollTop: { value: top, configurable: true, writable: true },
      })
      list.dispatchEvent(new Event('scroll'))
      await wrapper.vm.$nextTick()
      return wrapper.attributes('data-folded') !== undefined
    }
    expect(await scrollTo(0, 2000)).toBe(false)
    expect(await scrollTo(80, 2000)).toBe(true)
    // What folds would make this list fit, and unfold at once.
    expect(await scrollTo(90, 400)).toBe(false)
    // A list that moved between press and release would take the click away from what was pressed.
    list.dispatchEvent(new MouseEvent('mousedown', { bubbles: true }))
    expect(await scrollTo(80, 2000)).toBe(false)
    window.dispatchEvent(new MouseEvent('mouseup'))
    await wrapper.vm.$nextTick()
    expect(wrapper.attributes('data-folded')).toBe('true')
    await called(wrapper, 'Whole height, beside the timeline').trigger('click')
    expect(studio.desk.drawerTall).toBe(true)
    await called(wrapper, 'Beside the viewer only').trigger('click')
    expect(studio.desk.drawerTall).toBe(false)
  })
})
