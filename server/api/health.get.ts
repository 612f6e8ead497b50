export default defineEventHandler(async () => {
  await (await useDatabase()).raw('select 1')
  return { status: 'ok' }
})
