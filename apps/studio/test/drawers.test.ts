import { describe, expect, it, vi } from 'vitest'
import { TRANSITIONS } from '@dusk/compositor'
import HistoryList from '~/features/history/HistoryList.vue'
import FolderList from '~/features/library/FolderList.vue'
import MarkerCard from '~/features/markers/MarkerCard.vue'
import MarkersDrawer from '~/features/markers/MarkersDrawer.vue'
import TitlesDrawer from '~/features/titles/TitlesDrawer.vue'
import TransitionsDrawer from '~/features/transitions/TransitionsDrawer.vue'
import { useTitles } from '~/features/titles/titlesStore'
import { useTransitions } from '~/features/transitions/transitionsStore'
import { button, called, choose, typeNumber, typeText } from './tools/fields'
import { openDesk } from './tools/desk'
import { SECOND } from './tools/server'

const frame = SECOND / 30

describe('the gallery of transitions', () => {
  async function gallery() {
    const studio = await openDesk()
    studio.pair(0, 60, 60)
    studio.pair(60, 60, 180)
    const drawer = studio.show(TransitionsDrawer)
    const tile = (name: string) => drawer.findAll('li').find((entry) => entry.text().includes(name))!
    return { ...studio, drawer, tile, joins: () => Object.values(studio.project.document!.transitions) }
  }

  it('shows every transition, and finds them by name, by what they do and by family', async () => {
    const { drawer } = await gallery()
    expect(drawer.findAll('li')).toHaveLength(TRANSITIONS.length)
    const find = called(drawer, 'Find a transition')
    await find.setValue('CLOCK')
    const clocks = drawer.findAll('li').length
    expect(clocks).toBeGreaterThan(0)
    expect(clocks).toBeLessThan(10)
    await find.setValue('no such thing')
    expect(drawer.text()).toContain('Nothing is called that.')
    await find.setValue('')
    await choose(drawer, 'Family', 'Dips')
    expect(drawer.findAll('li')).toHaveLength(TRANSITIONS.filter((kind) => kind.family === 'dips').length)
  })

  it('puts one on the cut nearest to the playhead, with its sound, selected; another click changes it', async () => {
    const { drawer, tile, joins, desk, player } = await gallery()
    player.seek(70 * frame)
    await typeNumber(drawer, 'Length', '0.8')
    await tile('Dissolve').find('button').trigger('click')
    const made = joins()
    expect(made.map((entry) => entry.kind).sort()).toEqual(['dissolve', 'equalPower'])
    expect(made.map((entry) => entry.before + entry.after)).toEqual([0.8 * SECOND, 0.8 * SECOND])
    expect(desk.transitions).toEqual(new Set(made.map((entry) => entry.id)))
    const other = TRANSITIONS.find((kind) => kind.family === 'wipes')!
    await drawer
      .findAll('li')
      .find((entry) => entry.text().startsWith(other.name))!
      .find('button')
      .trigger('click')
    expect(
      joins()
        .map((entry) => entry.kind)
        .sort(),
    ).toEqual([other.id, 'equalPower'].sort())
    expect(joins()).toHaveLength(2)
  })

  it('says when there is no cut', async () => {
    const studio = await openDesk()
    const drawer = studio.show(TransitionsDrawer)
    expect(drawer.text()).toContain('Put two clips side by side')
    await drawer.find('li button').trigger('click')
    expect(studio.said()).toContain('There is no cut here')
    expect(Object.keys(studio.project.document!.transitions)).toEqual([])
  })

  it('keeps favourites first, the length and what the key puts in, for every project', async () => {
    const { drawer, server, tile } = await gallery()
    const star = tile('Dissolve').findAll('button').at(-1)!
    await star.trigger('click')
    await vi.waitFor(() => expect(drawer.find('h3').text()).toBe('Favourites'))
    expect(drawer.find('ul li').text()).toContain('Dissolve')
    await choose(drawer, 'The key puts in', 'Wipe')
    await vi.waitFor(() =>
      expect(server.settings.get('transitions')).toMatchObject({ favourites: ['dissolve'], standard: 'wipe' }),
    )
    await star.trigger('click')
    await vi.waitFor(() => expect(useTransitions().preferences.favourites).toEqual([]))
  })
})

describe('the titles drawer', () => {
  it('shows titles, shapes, stickers and backgrounds, and finds them', async () => {
    const studio = await openDesk()
    const drawer = studio.show(TitlesDrawer)
    const counts: Record<string, number> = {}
    for (const kind of ['Titles', 'Shapes', 'Stickers', 'Backgrounds']) {
      await button(drawer, kind).trigger('click')
      counts[kind] = drawer.findAll('li').length
    }
    expect(counts.Titles).toBeGreaterThanOrEqual(40)
    expect(counts.Stickers).toBeGreaterThanOrEqual(60)
    for (const kind of ['Shapes', 'Backgrounds']) expect(counts[kind]).toBeGreaterThan(5)
    await button(drawer, 'Backgrounds').trigger('click')
    await called(drawer, 'Find a title or shape').setValue('countdown')
    expect(drawer.findAll('li')).toHaveLength(1)
    await called(drawer, 'Find a title or shape').setValue('zzz')
    expect(drawer.text()).toContain('Nothing is called that.')
  })

  it('puts one in at the playhead on a track of its own, selected, and goes to where its words have come', async () => {
    const studio = await openDesk()
    studio.pair(0, 300)
    studio.player.seek(60 * frame)
    const drawer = studio.show(TitlesDrawer)
    await drawer.find('li button').trigger('click')
    const title = Object.values(studio.project.document!.clips).find((clip) => clip.kind === 'title')!
    expect(title.start).toBe(60 * frame)
    expect(studio.desk.selection).toEqual(new Set([title.id]))
    expect(studio.player.tick.value).toBeGreaterThanOrEqual(60 * frame)
    expect(studio.player.tick.value).toBeLessThan(title.start + title.length)
    await button(drawer, 'Backgrounds').trigger('click')
    await called(drawer, 'Find a title or shape').setValue('beneath')
    await drawer.find('li button').trigger('click')
    const adjustment = Object.values(studio.project.document!.clips).find((clip) => clip.kind === 'adjustment')!
    expect(adjustment.trackId).not.toBe(title.trackId)
  })

  it('begins a title to be typed', async () => {
    const studio = await openDesk()
    const drawer = studio.show(TitlesDrawer)
    await button(drawer, 'Type').trigger('click')
    const title = Object.values(studio.project.document!.clips)[0]!
    expect(title.kind).toBe('title')
    expect(useTitles().editing).toBe(title.id)
  })

  it('shows the person’s own titles, and forgets them', async () => {
    const studio = await openDesk()
    const own = {
      id: crypto.randomUUID(),
      name: 'Our sign-off',
      title: { text: 'Good night', style: {}, runs: [], in: null, out: null, during: null },
      params: {},
      format: { width: 1920, height: 1080 },
    }
    studio.server.settings.set('titles', [own])
    const drawer = studio.show(TitlesDrawer)
    await vi.waitFor(() => expect(drawer.text()).toContain('Our sign-off'))
    await called(drawer, 'Forget Our sign-off').trigger('click')
    expect(drawer.text()).not.toContain('Our sign-off')
    await vi.waitFor(() => expect(studio.server.settings.get('titles')).toEqual([]))
  })
})

describe('markers', () => {
  it('are listed in order with where they are, and gone to by a click', async () => {
    const studio = await openDesk()
    const drawer = studio.show(MarkersDrawer)
    expect(drawer.text()).toContain('to set a marker')
    for (const at of [90, 30]) {
      studio.player.seek(at * frame)
      await button(drawer, 'Set one here').trigger('click')
    }
    const rows = drawer.findAll('li')
    expect(rows.map((row) => row.text())).toEqual([
      expect.stringContaining('0:00:01:00'),
      expect.stringContaining('0:00:03:00'),
    ])
    await rows[1]!.find('button').trigger('click')
    expect(studio.player.tick.value / frame).toBe(90)
  })

  it('are changed and taken away where they are listed', async () => {
    const studio = await openDesk()
    const { reelId } = studio.project
    const markers = [20, 60].map((at, n) => ({
      ...{ id: crypto.randomUUID(), reelId, clipId: null, at: at * (SECOND / 30), length: 0 },
      ...{ name: `Place ${n}`, note: '', colour: 'lamp' as const },
    }))
    studio.project.perform({ type: 'addMarkers', markers: markers as never })
    const drawer = studio.show(MarkersDrawer)
    await drawer.get('[aria-label="Change Place 1"]').trigger('click')
    await drawer.get('input[aria-label="Name of the marker"]').setValue('Lanterns rise')
    expect(studio.project.document!.markers[markers[1]!.id]!.name).toBe('Lanterns rise')
    const button = (words: string) => drawer.findAll('button').find((one) => one.text() === words)!
    await button('Remove').trigger('click')
    expect(Object.keys(studio.project.document!.markers)).toEqual([markers[0]!.id])
    await drawer.get('li button').trigger('keydown', { key: 'Delete' })
    expect(studio.project.document!.markers).toEqual({})
  })

  it('are named, coloured, given a length and a note, mark a range, and are removed', async () => {
    const studio = await openDesk()
    const id = crypto.randomUUID()
    studio.project.perform({
      type: 'addMarkers',
      markers: [
        {
          id,
          reelId: studio.project.reelId,
          clipId: null,
          at: 30 * frame,
          length: 0,
          name: 'Marker 1',
          colour: 'lamp',
          note: '',
        },
      ],
    })
    const marker = () => studio.project.document!.markers[id]!
    const card = studio.show(MarkerCard, { marker: marker() })
    await typeText(card, 'Name of the marker', 'first lantern')
    await typeText(card, 'Note', 'hold here')
    await called(card, 'Label rose').trigger('click')
    const length = card.find('label input')
    ;(length.element as HTMLInputElement).value = 'ages'
    await length.trigger('change')
    expect(studio.said()).toContain('A length is typed as')
    ;(length.element as HTMLInputElement).value = '60f'
    await length.trigger('change')
    expect(marker()).toMatchObject({ name: 'first lantern', note: 'hold here', colour: 'rose', length: 60 * frame })
    await card.setProps({ marker: marker() })
    await button(card, 'Mark this range').trigger('click')
    expect(studio.desk.range).toEqual({ from: 30 * frame, to: 90 * frame })
    await button(card, 'Remove').trigger('click')
    expect(studio.project.document!.markers).toEqual({})
    expect(card.emitted('close')).toHaveLength(1)
  })
})

describe('the history', () => {
  const entries = [
    { seq: 3, label: 'Split 2 clips', at: '2026-11-20T19:05:00Z', windowId: 'another' },
    { seq: 2, label: 'Placed 2 clips', at: '2026-11-20T19:04:00Z', windowId: 'server' },
  ]

  it('lists what was done, newest first, and goes back to any of it', async () => {
    const studio = await openDesk()
    studio.server.answers.set(`GET /projects/${studio.project.id}/history`, { entries })
    studio.server.answers.set(`GET /projects/${studio.project.id}/revert?seq=2`, {
      command: { type: 'renameProject', name: 'As it was' },
    })
    const list = studio.show(HistoryList)
    await vi.waitFor(() => expect(list.findAll('li')).toHaveLength(3))
    expect(list.findAll('li')[0]!.find('button').attributes('disabled')).toBeDefined()
    expect(list.findAll('li')[0]!.text()).toContain('another window')
    await list.findAll('li')[1]!.find('button').trigger('click')
    await vi.waitFor(() => expect(studio.project.document!.name).toBe('As it was'))
    expect(list.emitted('done')).toHaveLength(1)
    // Going back is an edit as any other.
    studio.project.undo()
    expect(studio.project.document!.name).toBe('Lantern Night')
  })

  it('says so when nothing was done, and when the server can’t tell', async () => {
    const studio = await openDesk()
    studio.server.answers.set(`GET /projects/${studio.project.id}/history`, { entries: [] })
    const list = studio.show(HistoryList)
    await vi.waitFor(() => expect(list.text()).toContain('Nothing was done yet.'))
    studio.server.answers.set(
      `GET /projects/${studio.project.id}/history`,
      new Response(JSON.stringify({ detail: 'The project is gone.' }), { status: 404 }),
    )
    studio.show(HistoryList)
    await vi.waitFor(() => expect(studio.said()).toBe('The project is gone.'))
  })
})

describe('folders', () => {
  it('are opened, renamed and removed; Escape keeps the name', async () => {
    const studio = await openDesk()
    const folderId = crypto.randomUUID()
    studio.project.perform({ type: 'addFolder', folderId, name: 'Boats', parentId: null })
    const folder = () => studio.project.document!.folders[folderId]!
    const list = studio.show(FolderList, { folders: [folder()], modelValue: null, renaming: null })
    await list.find('button').trigger('click')
    expect(list.emitted('update:modelValue')).toEqual([[folderId]])
    await button(list, 'rename').trigger('click')
    await list.setProps({ renaming: folderId })
    const field = called(list, 'Name of the folder')
    ;(field.element as HTMLInputElement).value = ' Harbour '
    await field.trigger('blur')
    expect(folder().name).toBe('Harbour')
    await list.setProps({ folders: [folder()], renaming: null })
    await called(list, 'Remove the folder Harbour; what is in it stays').trigger('click')
    expect(studio.project.document!.folders).toEqual({})
  })
})
