import { FilePathSource, Input, Logging, LogLevel, MP4, QTFF } from 'mediabunny'

// What a file holds that is not read here is said to the person by what reads it after.
Logging.level = LogLevel.Silent

/**
 * Opens a film whose container has an index of all its frames: MP4 or MOV. Others would have to be read through for it.
 * The caller disposes it.
 */
export function openIndexed(path: string): Input {
  return new Input({ source: new FilePathSource(path), formats: [MP4, QTFF] })
}
