import { provenHardware } from '@dusk/store'

/** Encoders in graphics chips that a worker has proved at its start, by ffmpeg's names. */
export default defineApi(async () => ({ encoders: await provenHardware(useServices().db) }))
