import { sourceOf } from '../document/source'
import { defineRule } from './rule'

/** What entities name is there: no clip without track or source, no track without reel, nothing left over. */
export const references = defineRule({
  name: 'missing',
  about: ['assets', 'reels', 'tracks', 'clips', 'markers', 'subclips', 'folders'],
  check(view, touched, broken) {
    if (touched.any('tracks', 'reels'))
      for (const track of view.all('tracks'))
        if (!view.get('reels', track.reelId))
          broken(`${track.name} belongs to a reel that is no longer there.`, track.id)
    if (touched.any('clips', 'tracks', 'assets', 'reels'))
      for (const clip of touched.any('tracks', 'assets', 'reels') ? view.all('clips') : touched.of(view, 'clips')) {
        if (!view.get('tracks', clip.trackId)) broken('The track of a clip is no longer there.', clip.id)
        else if (!sourceOf(view, clip)) broken('The source of a clip is no longer there.', clip.id)
        else if (clip.kind === 'media' && clip.takes?.some(({ assetId }) => !view.get('assets', assetId)))
          broken('Another take of a clip is no longer there.', clip.id)
      }
    if (touched.any('markers', 'clips', 'reels'))
      for (const marker of view.all('markers')) {
        if (marker.reelId && !view.get('reels', marker.reelId))
          broken('The reel of a marker is no longer there.', marker.id)
        if (marker.clipId && !view.get('clips', marker.clipId))
          broken('The clip of a marker is no longer there.', marker.id)
      }
    if (touched.any('subclips', 'assets'))
      for (const { id, assetId } of view.all('subclips'))
        if (!view.get('assets', assetId)) broken('The source of a kept part is no longer there.', id)
    if (touched.any('folders', 'assets')) {
      for (const { id, parentId } of view.all('folders'))
        if (parentId && !view.get('folders', parentId)) broken('The folder around a folder is no longer there.', id)
      for (const { id, name, folderId } of touched.any('folders') ? view.all('assets') : touched.of(view, 'assets'))
        if (folderId && !view.get('folders', folderId)) broken(`The folder of ${name} is no longer there.`, id)
    }
  },
})
