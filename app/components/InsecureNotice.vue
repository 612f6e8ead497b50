<script setup lang="ts">
/**
 * Shown in place of everything where the browser gives no memory that threads share, which renders need: it does only
 * on pages that came safely (W3C Secure Contexts) and by themselves (HTML, cross-origin isolation).
 */
const port = location.port ? `:${location.port}` : ''
const secure = isSecureContext
const name = location.hostname
</script>

<template>
  <main class="insecure">
    <h1>Wavelume cannot render here</h1>
    <template v-if="!secure">
      <p>
        The page came as {{ name }} without HTTPS. Browsers give threads shared memory, which every picture here is
        computed in, only to pages that came by HTTPS or from the machine itself.
      </p>
      <p>Either of these helps:</p>
      <ul>
        <li>Serve it by HTTPS, and list the name in WAVELUME_HOSTS where the server is started.</li>
        <li>
          Bring its port to this machine, then open
          <a :href="`http://127.0.0.1${port}`">http://127.0.0.1{{ port }}</a
          >:
          <code>ssh -L {{ port.slice(1) || '80' }}:127.0.0.1:{{ port.slice(1) || '80' }} {{ name }}</code>
        </li>
      </ul>
    </template>
    <p v-else>
      The page came without the headers that part it from other pages (Cross-Origin-Opener-Policy and
      Cross-Origin-Embedder-Policy). Something between it and the server takes them away.
    </p>
  </main>
</template>

<style scoped>
.insecure {
  max-width: 640px;
  margin: 64px auto;
  padding: 0 24px;
  font-size: 14px;
  line-height: 1.5;
}
h1 {
  font-size: 18px;
  font-weight: 500;
  margin-bottom: 12px;
}
p,
ul {
  margin-bottom: 12px;
}
ul {
  list-style: disc;
  padding-left: 18px;
}
code {
  display: block;
}
</style>
