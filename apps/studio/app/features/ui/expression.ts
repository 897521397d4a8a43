/**
 * Works out what a person types into a number field: sums, products, brackets, and a unit behind that is passed over.
 * @returns `null` when it can't be read
 */
export function evaluate(text: string): number | null {
  const body = text
    .trim()
    .toLowerCase()
    .replaceAll(',', '.')
    .replace(/(px|%|°|db|s|×)$/, '')
  let at = 0
  const skip = () => {
    while (body[at] === ' ') at++
  }
  const number = (): number | null => {
    skip()
    if (body[at] === '-') {
      at++
      const value = number()
      return value === null ? null : -value
    }
    if (body[at] === '(') {
      at++
      const value = sum()
      skip()
      if (body[at] !== ')') return null
      at++
      return value
    }
    const match = /^\d*\.?\d+|^\d+\./.exec(body.slice(at))
    if (!match) return null
    at += match[0].length
    return Number(match[0])
  }
  const chain =
    (next: () => number | null, operators: string, apply: (a: number, b: number, operator: string) => number) =>
    (): number | null => {
      let value = next()
      for (;;) {
        skip()
        const operator = body[at]
        if (value === null || !operator || !operators.includes(operator)) return value
        at++
        const other = next()
        value = other === null ? null : apply(value, other, operator)
      }
    }
  const product = chain(number, '*/', (a, b, operator) => (operator === '*' ? a * b : a / b))
  const sum = chain(product, '+-', (a, b, operator) => (operator === '+' ? a + b : a - b))
  const value = sum()
  skip()
  return value !== null && at === body.length && Number.isFinite(value) ? value : null
}
