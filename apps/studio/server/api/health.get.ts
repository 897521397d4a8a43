export default defineApi(async () => {
  await useServices().sql`select 1`
  return { ok: true }
})
