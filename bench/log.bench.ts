import { ProjectLog, connect } from '@dusk/store'
import { compactLogs } from '@dusk/renderer/sweep/log'
import { commandTimes, manyClips, measureDesk, pageHeap } from './desk'
import { median } from './table'

/** What the log of edits takes: a ripple over five thousand clips, five hundred of them in one session, compaction. */
const RIPPLES = Number(process.env.BENCH_RIPPLES ?? 500)

await measureDesk(`log, 5,000 clips, ${RIPPLES} ripples`, 4874, async (desk, rows) => {
  const { api, page, origin } = desk
  const { id, pieces } = await manyClips(desk, 95, 5000)
  const connection = connect(desk.databaseUrl)
  const bytes = async (type: string) => {
    const [row] = await connection.sql<
      { bytes: number }[]
    >`select octet_length(patches::text) + octet_length(command::text)
      as bytes from project_edits where project_id = ${id} and command->>'type' = ${type} order by seq desc limit 1`
    return Number(row?.bytes ?? Number.NaN)
  }
  const database = async () => {
    const [row] = await connection.sql<{ bytes: number }[]>`select pg_total_relation_size('project_edits') as bytes`
    return Number(row!.bytes) / 1024 ** 2
  }
  await api.edit(id, { type: 'move', clipIds: [pieces[0]!.clipId], by: 705_600_000 / 3, mode: 'free' })
  rows.push(['entry of a plain move, kB (1 at most)', (await bytes('move')) / 1000])

  await page.goto(`${origin}/projects/${id}`)
  const first = page.locator('[data-testid="timeline-body"] [data-clip]').first()
  await first.waitFor()
  const round = async () => {
    await first.click({ position: { x: 4, y: 8 } })
    await page.keyboard.press('Control+d')
    await page.keyboard.press('Control+z')
  }
  const kept = () => page.getByText(/every edit kept/).waitFor({ timeout: 300_000 })
  for (let i = 0; i < 5; i++) await round()
  await kept()
  rows.push(['entry of the ripple, kB (250 at most)', (await bytes('duplicate')) / 1000])
  const before = await pageHeap(page)
  for (let i = 5; i < RIPPLES; i++) {
    await round()
    if (i % 50 === 0) await kept()
  }
  await kept()
  rows.push(['page heap grown, MB (30 at most)', ((await pageHeap(page)) - before) / 1024 ** 2])
  const ripples = await commandTimes(page, 'duplicate')
  rows.push(['a ripple in the client after that, ms (16 at most)', median(ripples.slice(-50))])
  for (let i = 0; i < 20; i++) {
    await first.click({ position: { x: 4, y: 8 } })
    await page.keyboard.press(i % 2 ? 'Alt+ArrowLeft' : 'Alt+ArrowRight')
  }
  rows.push(['a move in the client after that, ms (16 at most)', median(await commandTimes(page, 'move'))])
  await kept()
  rows.push(['database before compaction, ripples and their undos, MB', await database()])
  const [alone] = await connection.sql<{ share: number }[]>`select
    sum(pg_column_size(e.*)) filter (where command->>'type' = 'duplicate') / sum(pg_column_size(e.*))::float as share
    from project_edits e where project_id = ${id}`
  rows.push(['… of it the ripples, MB (130 at most)', (await database()) * alone!.share])
  const log = new ProjectLog(connection)
  await compactLogs(connection, log, { bytes: 1024 ** 2, kept: 1024 ** 2, edits: 10 })
  rows.push(['database after compaction, MB (10 at most)', await database()])
  await connection.close()
})
