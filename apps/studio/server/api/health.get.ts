export default defineOpenApi(async () => {
  await useServices().sql`select 1`
  return { ok: true }
})
