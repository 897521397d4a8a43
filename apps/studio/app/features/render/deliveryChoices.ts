import { DELIVERIES } from '@dusk/interchange'
import type { Choice } from '~/features/ui/choice'

/** Everything that a reel can be delivered as, to be chosen from. */
export const DELIVERY_CHOICES: readonly Choice<string>[] = Object.entries(DELIVERIES).map(
  ([value, { label, hint }]) => ({ value, label, hint }),
)
