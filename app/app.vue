<template>
  <UApp :toaster="{ position: 'bottom-center', expand: true }">
    <NuxtPage />
  </UApp>
</template>
