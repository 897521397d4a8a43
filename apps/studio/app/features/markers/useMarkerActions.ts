import { clipEnd, type Clip, type Marker } from '@dusk/timeline'
import { nextPlace } from '~/features/timeline/nextPlace'
import { useProject } from '~/features/project/projectStore'
import { usePlayhead } from '~/features/player/usePlayhead'
import { useSelection } from '~/features/timeline/useSelection'

/** A marker with its place in the reel that is shown; `clip` when it lies on one. */
export interface MarkerPlace {
  marker: Marker
  at: number
  clip: Clip | null
}

/** Setting markers and going from one to the next. */
export function useMarkerActions() {
  const project = useProject()
  const playhead = usePlayhead()
  const { rate, selected, theClip } = useSelection()

  function addMarker(): void {
    const clips = selected()
    // A picture with its sound is one clip: the marker goes on the picture.
    const one = clips.length === 1 || (clips.length > 1 && clips.every(({ link }) => link && link === clips[0]!.link))
    const clip = one ? theClip() : null
    const at = playhead.now()
    const inside = clip && at >= clip.start && at < clipEnd(clip)
    const count = Object.keys(project.document?.markers ?? {}).length
    const place = inside
      ? { reelId: null, clipId: clip.id, at: clip.head + at - clip.start }
      : { reelId: project.reelId, clipId: null, at }
    project.perform({
      type: 'addMarkers',
      markers: [
        { id: crypto.randomUUID(), ...place, length: 0, name: `Marker ${count + 1}`, colour: 'lamp', note: '' },
      ],
    })
  }

  /** Goes to the next or previous marker of the reel or of a clip in it. */
  function jumpMarker(direction: 1 | -1): void {
    const places = markerPlaces().map(({ at }) => at)
    const next = nextPlace(places, playhead.now(), direction, rate())
    if (next !== null) playhead.goTo(next)
  }

  /** Markers seen in this reel with their places in it. */
  function markerPlaces(): MarkerPlace[] {
    const document = project.document
    if (!document) return []
    return Object.values(document.markers).flatMap((marker): MarkerPlace[] => {
      if (marker.reelId === project.reelId) return [{ marker, at: marker.at, clip: null }]
      const clip = marker.clipId ? document.clips[marker.clipId] : undefined
      if (!clip || document.tracks[clip.trackId]?.reelId !== project.reelId) return []
      const at = clip.start + marker.at - clip.head
      return at >= clip.start && at < clipEnd(clip) ? [{ marker, at, clip }] : []
    })
  }

  return { addMarker, jumpMarker, markerPlaces }
}
