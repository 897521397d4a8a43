import { defineTransition, number } from '../define'

/** Both pictures blur as they mix. */
export const softDissolve = defineTransition({
  id: 'softDissolve',
  name: 'Soft dissolve',
  family: 'lights',
  hint: 'Both pictures blur as they mix.',
  params: [number('amount', 'Amount', 1, 100, 25)],
  draw(stage, t, settings) {
    const amount = (Number(settings.amount) * stage.width) / 1000
    const [a, b] = [stage.copy(stage.from), stage.copy(stage.to)]
    stage.blur(a, amount * t, amount * t)
    stage.blur(b, amount * (1 - t), amount * (1 - t))
    stage.dissolve(t, a, b)
  },
})
