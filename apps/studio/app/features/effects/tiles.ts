import { EFFECT_FAMILIES, PICTURE_EFFECTS, pictureEffect } from '@dusk/compositor'
import type { Effect, Params } from '@dusk/timeline'
import { newShape } from './masks/maskEdit'
import type { OwnLook } from '~~/shared/preferences'

/** Effects as they are added. */
export type AddedEffect = Pick<Effect, 'domain' | 'kind' | 'settings' | 'strength' | 'mask'>

/** Something of the gallery: an effect, one with ready-made settings, or effects the person keeps together. */
export interface EffectTileEntry {
  id: string
  name: string
  hint: string
  effects: AddedEffect[]
  /** A look of the person's own. */
  own?: OwnLook
}

/** An effect as a tile adds it. One that acts outside its mask comes with one. */
function added(kind: string, settings: Params): AddedEffect {
  const found = pictureEffect(kind)
  const outside = found && 'draw' in found && found.outside
  const mask = outside ? { mask: { shapes: [{ ...newShape('ellipse', true), settings: { size: [70, 80] } }] } } : {}
  return { domain: 'picture', kind, settings, strength: 100, ...mask } as AddedEffect
}

const SHIPPED: (EffectTileEntry & { family: string; words: string })[] = PICTURE_EFFECTS.flatMap((kind) => {
  const about = `${kind.name} ${kind.hint} ${EFFECT_FAMILIES[kind.family]}`
  return [{ id: '', name: kind.name, settings: {} as Params }, ...kind.presets].map((entry) => ({
    id: `${kind.id}/${entry.id}`,
    ...{ name: entry.name, hint: kind.hint, family: kind.family },
    words: `${about} ${entry.name}`.toLowerCase(),
    effects: [added(kind.id, entry.settings)],
  }))
})

/** Families that are not of the effects' own making. */
export const OWN_FAMILIES = { looks: 'My looks', favourites: 'Favourites', last: 'Used last' } as const

/** Tiles in groups, found by words and family. Keys of own families begin with a colon. */
export function tileGroups(
  words: string,
  family: string,
  kept: { favourites: readonly string[]; last: readonly string[]; looks: readonly OwnLook[] },
): { id: string; name: string; tiles: EffectTileEntry[] }[] {
  const wanted = words.trim().toLowerCase()
  const matches = (text: string) => text.toLowerCase().includes(wanted)
  const named = (ids: readonly string[]) => ids.flatMap((id) => SHIPPED.find((tile) => tile.id === id) ?? [])
  const own: EffectTileEntry[] = kept.looks.map((look) => ({
    id: `:${look.id}`,
    ...{ name: look.name, hint: 'A look of yours.', effects: look.effects as AddedEffect[], own: look },
  }))
  const groups: { id: string; name: string; tiles: EffectTileEntry[] }[] = [
    {
      id: ':favourites',
      name: OWN_FAMILIES.favourites,
      tiles: named(kept.favourites).filter((tile) => matches(tile.words)),
    },
    { id: ':last', name: OWN_FAMILIES.last, tiles: named(kept.last).filter((tile) => matches(tile.words)) },
    { id: ':looks', name: OWN_FAMILIES.looks, tiles: own.filter((tile) => matches(tile.name)) },
    ...Object.entries(EFFECT_FAMILIES).map(([id, name]) => ({
      ...{ id, name },
      tiles: SHIPPED.filter((tile) => tile.family === id && matches(tile.words)),
    })),
  ]
  // Without a choice, only effects: what was used last would stand twice.
  return groups.filter(
    ({ id, tiles }) => tiles.length > 0 && (family ? id === family : !id.startsWith(':') || id === ':looks'),
  )
}
