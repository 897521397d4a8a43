import { ref } from 'vue'
import { clipName, reading, trackClips, tracksOf, type Animated, type Clip } from '@dusk/timeline'
import { usePlayer } from '~/features/player/usePlayhead'
import { useProject } from '~/features/project/projectStore'
import { useDesk } from '~/features/timeline/deskStore'
import { useNotices } from '~/features/ui/noticesStore'
import { duckLine } from './duck'
import { useSound } from './soundStore'
import { useLoudness } from './useLoudness'
import { saveFile } from '~/features/ui/saveFile'

/** A WAV file as another kind; the server has what makes it. @throws {Error} in words */
async function encoded(wav: Blob, kind: 'flac' | 'mp3'): Promise<Blob> {
  const response = await fetch(`/api/sound-files?as=${kind}`, { method: 'POST', body: wav }).catch(() => null)
  if (!response?.ok) throw new Error(`The ${kind.toUpperCase()} file could not be made. Save it as WAV, or try again.`)
  return response.blob()
}

/** What can be done to sounds by a key or a menu. */
export function useSoundActions() {
  const project = useProject()
  const desk = useDesk()
  const player = usePlayer()
  const notices = useNotices()
  const store = useSound()
  const loudness = useLoudness()

  /** Whether a sound is being saved. */
  const extracting = ref(false)

  const sounds = (): Clip[] =>
    [...desk.selection]
      .map((id) => project.document?.clips[id])
      .filter((clip): clip is Clip => !!clip && clip.stream !== null)

  /** Selected sounds louder or quieter. */
  function louder(by: number): void {
    const clips = sounds()
    if (clips.length === 0) return notices.say('Select a sound first.')
    project.perform({
      type: 'setGains',
      clips: clips.map((clip) => ({ clipId: clip.id, gain: Math.min(24, Math.max(-96, clip.gain + by)) })),
    })
  }

  function bringToTarget(): void {
    const clips = sounds()
    if (clips.length === 0) return notices.say('Select a sound first.')
    void loudness.bringToTarget(clips.map(({ id }) => id))
  }

  /** Writes level lines on the music, so that it gives way wherever a voice is heard; again replaces what was there. */
  async function duck(): Promise<void> {
    const reel = project.document
    if (!reel) return
    await store.load()
    const tracks = tracksOf(reel, project.reelId)
    const voices = tracks.filter((track) => track.purpose === 'voice' && !track.muted)
    const lanes = trackClips(reel)
    const chosen = new Set(desk.selection)
    const music = tracks
      .filter((track) => track.purpose === 'music' && !track.locked)
      .flatMap((track) => lanes.get(track.id) ?? [])
    // With music selected only that gives way.
    const wanted = music.some((clip) => chosen.has(clip.id)) ? music.filter((clip) => chosen.has(clip.id)) : music
    if (wanted.length === 0) return notices.say('There is no music on a track for music.')
    if (voices.every((track) => (lanes.get(track.id) ?? []).length === 0))
      return notices.say('There is no voice on a track for voices.')
    try {
      const { spoken } = await player.tasks.findVoice({ trackIds: voices.map((track) => track.id) })
      const clips = wanted.map((clip) => ({
        clipId: clip.id,
        set: { level: duckLine(clip, spoken, store.preferences.duck) as Animated<number> as never },
      }))
      if (project.perform({ type: 'setEach', clips }))
        notices.say(
          `${wanted.length === 1 ? 'The music gives' : `${wanted.length} pieces of music give`} way to the voice. ` +
            'The lines can be changed by hand.',
        )
    } catch (error) {
      notices.warn((error as Error).message)
    }
  }

  /** Saves what is heard of the selected sounds, of the marked range, or of the whole reel as a file. */
  async function extract(): Promise<void> {
    const clips = sounds()
    const { range } = desk
    const what = clips.length > 0 ? { clipIds: clips.map(({ id }) => id) } : range ? { range } : {}
    const first = clips[0]
    const name = first && project.document ? clipName(reading(project.document), first) : project.reel?.name
    notices.say('The sound is being mixed; the file comes by itself.')
    extracting.value = true
    try {
      await store.load()
      const kind = store.preferences.file
      const wav = await player.tasks.extractSound(what)
      const file = kind === 'wav' ? wav : await encoded(wav, kind)
      saveFile(file, `${(name ?? 'sound').replace(/\.[^.]+$/, '')}.${kind}`)
    } catch (error) {
      notices.warn((error as Error).message)
    } finally {
      extracting.value = false
    }
  }

  function clearLevels(): void {
    const clips = sounds().filter((clip) => clip.params.level !== undefined)
    if (clips.length === 0) return notices.say('No selected sound has a level line.')
    project.perform({ type: 'setParams', clipIds: clips.map(({ id }) => id), set: { level: null } })
  }

  return { extracting, sounds, louder, bringToTarget, duck, extract, clearLevels }
}
