export * from './avcConfig'
export * from './copyableFilm'
export * from './copySpan'
export * from './joinMixed'
