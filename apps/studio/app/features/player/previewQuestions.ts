import type { FramePlan } from '@dusk/timeline'
import type { PreviewReply, PreviewRequest, TitleLayoutReply, TitleLayoutRequest } from './messages'

interface Waiting<T> {
  resolve(answer: T): void
  reject(error: Error): void
}

/** Questions to the viewer's worker that it answers once each, by their numbers. */
export class PreviewQuestions {
  private count = 0
  private readonly layouts = new Map<number, Waiting<TitleLayoutReply>>()
  private readonly frames = new Map<number, Waiting<Blob>>()
  private readonly thumbnails = new Map<number, (picture: ImageBitmap | null) => void>()

  constructor(private readonly ask: (request: PreviewRequest) => void) {}

  titleLayout(ask: TitleLayoutRequest): Promise<TitleLayoutReply> {
    return this.waitFor(this.layouts, (id) => ({ kind: 'titleLayout', id, ask }))
  }

  captureFrame(tick: number, width: number, height: number): Promise<Blob> {
    return this.waitFor(this.frames, (id) => ({ kind: 'captureFrame', id, tick, width, height }))
  }

  thumbnail(plan: FramePlan): Promise<ImageBitmap | null> {
    const id = ++this.count
    return new Promise((resolve) => {
      this.thumbnails.set(id, resolve)
      this.ask({ kind: 'thumbnail', id, plan })
    })
  }

  /** Takes an answer in; others than those to questions are left alone. */
  hear(data: PreviewReply): void {
    switch (data.kind) {
      case 'titleLayout':
        this.layouts.get(data.id)?.resolve(data.answer)
        this.layouts.delete(data.id)
        return
      case 'thumbnail':
        this.thumbnails.get(data.id)?.(data.picture)
        this.thumbnails.delete(data.id)
        return
      case 'frame':
        this.frames.get(data.id)?.resolve(data.png)
        this.frames.delete(data.id)
        return
      case 'refused':
        this.refuse(new Error(data.message), data.id)
    }
  }

  /** Whoever still waits for a layout or a frame is told why there will be none. */
  refuse(error: Error, only?: number): void {
    for (const waiting of [this.layouts, this.frames] as Map<number, Waiting<never>>[])
      for (const [id, { reject }] of waiting) {
        if (only !== undefined && id !== only) continue
        reject(error)
        waiting.delete(id)
      }
  }

  private waitFor<T>(waiting: Map<number, Waiting<T>>, request: (id: number) => PreviewRequest): Promise<T> {
    const id = ++this.count
    return new Promise((resolve, reject) => {
      waiting.set(id, { resolve, reject })
      this.ask(request(id))
    })
  }
}
