<script setup lang="ts">
import { onMounted, ref } from 'vue'
import KeyRound from '@lucide/vue/dist/esm/icons/key-round.mjs'
import { placeWithin } from '~/features/ui/placeWithin'
import { api } from '~/features/ui/api'

const route = useRoute()
const passphrase = ref('')
const byPassphrase = ref(false)
const wrong = ref<string | null>(null)
const trying = ref(false)

// The whole page anew: what was asked for in vain before is asked for again.
const goOn = () => location.replace(placeWithin(route.query.to))

onMounted(async () => {
  try {
    const access = await api<{ entered: boolean; passphrase: boolean }>('/access')
    if (access.entered) return goOn()
    byPassphrase.value = access.passphrase
  } catch (error) {
    wrong.value = (error as Error).message
  }
})

async function enter(): Promise<void> {
  trying.value = true
  wrong.value = null
  try {
    await api('/access', 'POST', { passphrase: passphrase.value })
    goOn()
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    trying.value = false
  }
}
</script>

<template>
  <main class="mx-auto flex h-full max-w-md flex-col justify-center p-10">
    <img src="/lantern.svg" alt="" class="size-12" />
    <h1 class="mt-4 font-display text-2xl font-semibold">This browser has no key yet</h1>
    <p v-if="route.query.link === 'old'" class="mt-3 text-rose" role="alert">
      That link was used already, or is too old.
    </p>
    <p class="mt-3 text-muted">
      Dusk Reel lets in only browsers that have opened its link. It was printed when the studio was started; on that
      machine, in the folder of Dusk Reel, this prints another:
    </p>
    <code class="mt-3 block rounded-md border border-line bg-panel px-3 py-2 font-mono text-lamp select-all"
      >./dusk open</code
    >
    <form v-if="byPassphrase" class="mt-6" @submit.prevent="enter">
      <label class="block">
        <span class="text-muted">Or type the passphrase of this studio</span>
        <input
          v-model="passphrase"
          type="password"
          class="field mt-1"
          autocomplete="current-password"
          maxlength="1000"
          required
        />
      </label>
      <button class="key key-ember mt-3 px-3" :disabled="trying || passphrase === ''">
        <KeyRound :size="15" /> {{ trying ? 'Asking' : 'Enter' }}
      </button>
    </form>
    <p v-if="wrong" class="mt-3 text-rose" role="alert">{{ wrong }}</p>
  </main>
</template>
