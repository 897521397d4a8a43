/** A dialog's content where it stands, instead of in a layer above the page. */
export const inPlace = {
  global: {
    stubs: {
      DialogFrame: { props: ['open', 'title'], template: '<div v-if="open"><h1>{{ title }}</h1><slot /></div>' },
      NuxtLink: { props: ['to'], template: '<a :href="to"><slot /></a>' },
    },
  },
}
