/** Whether the process answers. */
export default defineEventHandler(() => ({ status: 'ok' }))
