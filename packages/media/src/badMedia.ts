/** Why a file can't be taken in, in words for the person who dropped it. */
export class BadMedia extends Error {
  constructor(message: string) {
    super(message)
    this.name = 'BadMedia'
  }
}
