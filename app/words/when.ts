/** A moment as it is written on the page. @param iso as the server gives it */
export const when = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
