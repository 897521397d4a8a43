declare module '@lucide/vue/dist/esm/icons/*' {
  import type { FunctionalComponent, SVGAttributes } from 'vue'
  const icon: FunctionalComponent<SVGAttributes & { size?: number | string }>
  export default icon
}
