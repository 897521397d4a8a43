import type { EventEmitter } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import S3rver from 's3rver'
import { afterAll, beforeAll } from 'vitest'

/** A small server that speaks S3 on this machine, with one bucket. */
export interface BucketStand {
  /** Address of the bucket, and the environment by which a process reaches it. */
  address: string
  env: Record<string, string>
  /** Names of objects that were copied within the bucket, in order: so one is given a new date. */
  copied: string[]
  close(): Promise<void>
}

async function openBucketStand(bucket = 'lanterns'): Promise<BucketStand> {
  const directory = mkdtempSync(join(tmpdir(), 'dusk-bucket-'))
  const server = new S3rver({
    ...{ address: '127.0.0.1', port: 0, silent: true, directory },
    configureBuckets: [{ name: bucket, configs: [] }],
  })
  const { port } = await server.run()
  const copied: string[] = []
  type Said = { Records: { eventName: string; s3: { object: { key: string } } }[] }
  ;(server as unknown as EventEmitter).on('event', ({ Records }: Said) => {
    for (const { eventName, s3 } of Records) if (eventName === 'ObjectCreated:Copy') copied.push(s3.object.key)
  })
  return {
    address: `s3://${bucket}/evening`,
    env: {
      AWS_ENDPOINT_URL_S3: `http://127.0.0.1:${port}`,
      AWS_ACCESS_KEY_ID: 'S3RVER',
      AWS_SECRET_ACCESS_KEY: 'S3RVER',
      AWS_REGION: 'us-east-1',
    },
    copied,
    async close() {
      await server.close()
      rmSync(directory, { recursive: true, force: true })
    },
  }
}

/** A bucket for a file of tests, which this process and those that it starts reach by their environment. */
export function bucketForTests(): () => BucketStand {
  let stand: BucketStand
  let before: NodeJS.ProcessEnv
  beforeAll(async () => {
    stand = await openBucketStand()
    before = { ...process.env }
    Object.assign(process.env, stand.env)
  })
  afterAll(async () => {
    process.env = before
    await stand.close()
  })
  return () => stand
}
