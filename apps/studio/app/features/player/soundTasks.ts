import type { MixReply, MixRequest } from './messages'
import type { FittedLength } from '@dusk/sound'
import type { ExtractTask, FitTask, LearnTask, Measured, MeasureTask, SoundTask, VoiceTask } from './mixTasks'

type Progress = (part: number) => void

/** What the mix worker works out besides what is played: each answer comes by the number of its question. */
export class SoundTasks {
  private readonly waiting = new Map<
    number,
    { resolve: (answer: never) => void; reject: (error: Error) => void; progress: Progress }
  >()
  private count = 0

  constructor(private readonly post: (message: MixRequest) => void) {}

  /** Measures what is heard, as fast as it can be mixed. @throws {Error} in words */
  measure(what: Omit<MeasureTask, 'kind'>, progress?: Progress): Promise<Measured> {
    return this.ask({ kind: 'measure', ...what }, progress)
  }

  /** Learns what the noise of a source sounds like. @throws {Error} in words */
  learnNoise(what: Omit<LearnTask, 'kind'>): Promise<{ print: string }> {
    return this.ask({ kind: 'learn', ...what })
  }

  /** What is heard as a WAV file. @throws {Error} in words */
  extractSound(what: Omit<ExtractTask, 'kind'>, progress?: Progress): Promise<Blob> {
    return this.ask({ kind: 'extract', ...what }, progress)
  }

  /** Finds where somebody speaks on some tracks. @throws {Error} in words */
  findVoice(what: Omit<VoiceTask, 'kind'>): Promise<{ spoken: { from: number; to: number }[] }> {
    return this.ask({ kind: 'voice', ...what })
  }

  /** Finds how a sound is brought to a length. @throws {Error} in words */
  fit(what: Omit<FitTask, 'kind'>, progress?: Progress): Promise<FittedLength> {
    return this.ask({ kind: 'fit', ...what }, progress)
  }

  /** Takes what the worker says. */
  hear(reply: Extract<MixReply, { kind: 'progress' | 'answer' }>): void {
    const task = this.waiting.get(reply.id)
    if (reply.kind === 'progress') return task?.progress(reply.part)
    if ('error' in reply.answer) task?.reject(new Error(reply.answer.error))
    else task?.resolve(reply.answer as never)
    this.waiting.delete(reply.id)
  }

  private ask<T>(task: SoundTask, progress: Progress = () => {}): Promise<T> {
    const id = ++this.count
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject, progress })
      this.post({ kind: 'task', id, task })
    })
  }
}
