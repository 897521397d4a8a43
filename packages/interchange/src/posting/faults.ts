import { clock } from './clock'
import { readCues } from './cues'
import type { Post, PostLimits } from './limits'

/** Something that a place would not take. */
export interface PostFault {
  field: 'title' | 'description' | 'tags' | 'chapters' | 'captions' | 'size' | 'length' | 'shape' | 'kind'
  words: string
}

/** A media type in words: `MP4` for `video/mp4`. */
const called = (kind: string) => kind.replace(/^\w+\//, '').toUpperCase()
const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`

/** What of a film a place would refuse, each with what to do about it; nothing is sent before this is empty. */
export function postFaults(post: Post, limits: PostLimits): PostFault[] {
  return [...fileFaults(post.file, limits), ...wordFaults(post, limits), ...partFaults(post, limits)]
}

function fileFaults(file: Post['file'], limits: PostLimits): PostFault[] {
  const faults: PostFault[] = []
  const { place, shape } = limits
  if (!limits.kinds.includes(file.kind))
    faults.push({
      field: 'kind',
      words: `${place} takes ${limits.kinds.map(called).join(' and ')} files.`,
    })
  if (file.bytes > limits.maxBytes)
    faults.push({
      field: 'size',
      words:
        `The file is ${megabytes(file.bytes)}; ${place} takes ${megabytes(limits.maxBytes)}. ` +
        'Render it smaller, or with fewer bits a second.',
    })
  if (file.seconds > limits.maxSeconds)
    faults.push({
      field: 'length',
      words:
        `The film lasts ${clock(file.seconds)}; ${place} takes ${clock(limits.maxSeconds)}. ` +
        'Render a part of it, or shorten it.',
    })
  const ratio = file.width / file.height
  // Pixels are whole: half a per cent is not another shape.
  if (ratio < shape.least * 0.995 || ratio > shape.most * 1.005)
    faults.push({
      field: 'shape',
      words:
        `The picture is ${file.width} × ${file.height}; ${place} takes ${shape.words}. ` + 'Render it in such a shape.',
    })
  return faults
}

function wordFaults(post: Post, limits: PostLimits): PostFault[] {
  const faults: PostFault[] = []
  const { title, description, tags } = post
  if (title.length === 0) faults.push({ field: 'title', words: 'It needs a title.' })
  if (title.length > limits.title)
    faults.push({ field: 'title', words: `The title is ${title.length} letters long, ${limits.title} at most.` })
  if (description.length > limits.description)
    faults.push({
      field: 'description',
      words: `The description is ${description.length} letters long, ${limits.description} at most.`,
    })
  if (tags.length > limits.tags.most)
    faults.push({ field: 'tags', words: `There are ${tags.length} tags, ${limits.tags.most} at most.` })
  const long = tags.find((tag) => tag.length > limits.tags.length)
  if (long)
    faults.push({
      field: 'tags',
      words: `The tag “${long.slice(0, 20)}…” is longer than ${limits.tags.length} letters.`,
    })
  return faults
}

function partFaults({ chapters, captions, file }: Post, limits: PostLimits): PostFault[] {
  const faults: PostFault[] = []
  const { most, leastSeconds } = limits.chapters
  const wrong = (words: string) => faults.push({ field: 'chapters', words })
  if (chapters.length > most) wrong(`There are ${chapters.length} chapters, ${most} at most.`)
  if (chapters[0] && chapters[0].at > 0) wrong('The first chapter begins with the film, at 0:00.')
  chapters.forEach(({ at, name }, i) => {
    const end = chapters[i + 1]?.at ?? file.seconds
    const called = name || `Chapter ${i + 1}`
    if (!name) wrong(`Chapter ${i + 1} needs a name.`)
    if (at >= file.seconds) wrong(`${called} begins after the film’s end.`)
    else if (end <= at) wrong(`${called} has to begin before the next one.`)
    else if (end - at < leastSeconds) wrong(`${called} is shorter than ${leastSeconds} s.`)
  })
  if (captions)
    try {
      const late = readCues(captions.vtt).find((cue) => cue.from >= file.seconds * 1000)
      if (late)
        faults.push({
          field: 'captions',
          words: `The captions go on after the film’s end, at ${clock(late.from / 1000)}: are they for another one?`,
        })
    } catch (error) {
      faults.push({ field: 'captions', words: (error as Error).message })
    }
  return faults
}
