import { buildRenderer } from './dusk/build'

/** Before tests that start workers and drawing threads: those run what was built, which must be of these sources. */
export default buildRenderer
