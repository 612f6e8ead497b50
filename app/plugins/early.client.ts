import { openEarly } from '../renderer/early'

export default defineNuxtPlugin(() => {
  const id = /^\/bench\/([0-9a-f-]{36})$/.exec(location.pathname)?.[1]
  if (id !== undefined && crossOriginIsolated) openEarly(id)
})
