import 'fake-indexeddb/auto'

/** The page of tests has no fonts: they are read as far as the interface is concerned. */
class NoFont {
  load = () => Promise.resolve(this)
}
Object.assign(globalThis, { FontFace: NoFont })
if (typeof document !== 'undefined' && !document.fonts) Object.assign(document, { fonts: new Set() })
if (typeof HTMLMediaElement !== 'undefined') HTMLMediaElement.prototype.canPlayType = () => 'probably'
