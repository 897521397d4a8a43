import { openBoard } from './board'

/** The practice board as a process: `BOARD_PORT`, `BOARD_FOLDER` and `BOARD_KEY` say how. ./dusk start does it. */
async function main(): Promise<void> {
  const { BOARD_FOLDER: folder, BOARD_KEY: key, BOARD_PORT: port } = process.env
  if (!folder || !port || (key ?? '').length < 32)
    throw new Error('BOARD_FOLDER, BOARD_PORT and a BOARD_KEY of 32 characters must be set. ./dusk start does it.')
  const server = await openBoard({ folder, key: key! })
  server.once('error', (error: NodeJS.ErrnoException) => {
    const taken = error.code === 'EADDRINUSE'
    console.error(`The practice board can’t listen: ${taken ? `port ${port} is in use` : error.message}.`)
    process.exit(1)
  })
  server.listen(Number(port), '127.0.0.1', () => console.log('Practice board ready.'))
  const end = () => {
    server.close(() => process.exit(0))
    server.closeAllConnections()
  }
  process.once('SIGTERM', end)
  process.once('SIGINT', end)
}

await main()
