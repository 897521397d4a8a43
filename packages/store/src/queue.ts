import PgBoss from 'pg-boss'

/** Work for the render workers, by queue. */
export interface Jobs {
  /** Hash an upload, look at it, put it into its project. */
  examine: { assetId: string }
  /** Make the files for previewing. */
  make: { hash: string }
  render: { renderId: string; attempt: number }
}
export type QueueName = keyof Jobs

const QUEUES: QueueName[] = ['examine', 'make', 'render']

/** The job queue on the same PostgreSQL. More machines: start more workers with the same address. */
export class Queue {
  private readonly boss: PgBoss
  private readonly started: Promise<void>

  constructor(url: string) {
    this.boss = new PgBoss({ connectionString: url, max: 4, application_name: 'dusk-queue' })
    this.boss.on('error', (error) => console.error(`Queue: ${error.message}`))
    this.started = this.boss.start().then(async () => {
      for (const name of QUEUES) await this.boss.createQueue(name)
    })
    this.started.catch(() => {})
  }

  /** Settles once the queue can be used. */
  ready(): Promise<void> {
    return this.started
  }

  /**
   * Adds a job. It is not tried again by the queue itself: rows that lost their worker are found by their heartbeat.
   */
  async send<Q extends QueueName>(queue: Q, data: Jobs[Q]): Promise<void> {
    await this.started
    await this.boss.send(queue, data, { retryLimit: 0, expireInHours: 23 })
  }

  /** Works on a queue, `parallel` jobs at once, until {@link stop}. */
  async work<Q extends QueueName>(queue: Q, parallel: number, handle: (data: Jobs[Q]) => Promise<void>): Promise<void> {
    await this.started
    for (let i = 0; i < parallel; i++)
      await this.boss.work<Jobs[Q]>(queue, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([job]) => {
        if (job) await handle(job.data)
      })
  }

  async stop(): Promise<void> {
    await this.started.catch(() => {})
    await this.boss.stop({ graceful: false, wait: true, timeout: 1000 })
  }
}
