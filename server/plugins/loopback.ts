/**
 * The server listens on this machine alone, whoever starts it, unless it is told another address: the address is read
 * after plugins have run (Nitro's entry for Node).
 */
export default defineNitroPlugin(() => {
  if (!process.env.NITRO_HOST && !process.env.HOST) process.env.HOST = '127.0.0.1'
})
