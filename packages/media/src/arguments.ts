/** ffmpeg arguments from words split at spaces; arrays among them are taken as they are. */
export function words(...parts: (string | readonly string[])[]): string[] {
  return parts.flatMap((part) => (typeof part === 'string' ? part.split(' ').filter(Boolean) : part))
}
