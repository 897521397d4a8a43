import { chmodSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { binaries, databaseAnswers, ownFolder, startCluster } from '../dusk/cluster'
import { StepFailed } from '../dusk/steps'

const dir = mkdtempSync(join(tmpdir(), 'dusk-cluster-'))
// The database's own account has to pass through it.
chmodSync(dir, 0o755)
afterAll(() => rmSync(dir, { recursive: true, force: true }))

describe('the private database', () => {
  it('starts again with all that was in it when the file with its password is broken or lost', async () => {
    const data = join(dir, 'data')
    const first = await startCluster(data, false)
    const { default: postgres } = await import('postgres')
    const sql = postgres(first.url, { max: 1 })
    await sql`create table lanterns (colour text)`
    await sql`insert into lanterns values ('amber')`
    await sql.end()
    await first.stop()
    const secret = join(data, 'postgres.json')
    const before = readFileSync(secret, 'utf8')
    for (const spoil of [() => writeFileSync(secret, before.slice(0, 20)), () => rmSync(secret)]) {
      spoil()
      const again = await startCluster(data, false)
      const next = postgres(again.url, { max: 1 })
      expect([...(await next`select * from lanterns`)]).toEqual([{ colour: 'amber' }])
      await next.end()
      // The old password is worth nothing any more.
      const { password } = JSON.parse(before) as { password: string }
      const old = new URL(again.url)
      old.password = password
      expect(await databaseAnswers(old.href)).toBe(false)
      await again.stop()
    }
    expect(statSync(secret).mode & 0o777).toBe(0o600)
  })

  it('is run by the version that made its data, and says which one is missing', () => {
    const base = join(dir, 'versions')
    for (const version of ['13', '15']) {
      mkdirSync(join(base, version, 'bin'), { recursive: true })
      writeFileSync(join(base, version, 'bin/initdb'), '')
    }
    const made = (version: string) => {
      const folder = join(dir, `made-${version}`)
      mkdirSync(folder)
      writeFileSync(join(folder, 'PG_VERSION'), `${version}\n`)
      return folder
    }
    expect(binaries(join(dir, 'new'), base)).toBe(join(base, '15', 'bin'))
    expect(binaries(made('13'), base)).toBe(join(base, '13', 'bin'))
    const newer = made('16')
    expect(() => binaries(newer, base)).toThrow(/made by PostgreSQL 16, and only 15, 13 is installed.*postgresql-16/)
    expect(() => binaries(join(dir, 'new'), join(dir, 'nowhere'))).toThrow('Install the Debian package postgresql')
  })

  it('lies in a folder that other accounts can’t list, and says where that can’t be made', () => {
    const own = join(dir, 'own')
    mkdirSync(own, { mode: 0o755 })
    ownFolder(own)
    expect(statSync(own).mode & 0o066).toBe(0)
    expect(statSync(join(own, 'media')).mode & 0o777).toBe(0o700)
    const file = join(dir, 'a file')
    writeFileSync(file, '')
    expect(() => ownFolder(join(file, 'data'))).toThrow(StepFailed)
    expect(() => ownFolder(join(file, 'data'))).toThrow('Choose another with --data')
  })
})
