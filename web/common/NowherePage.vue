<script setup lang="ts">
document.title = 'Nothing here – Baldacchino'
defineProps<{ message?: string }>()
</script>

<template>
  <main class="nowhere">
    <h1>Nothing stands at this place</h1>
    <p>{{ message ?? 'The address may be mistyped, or the piece was deleted.' }}</p>
    <RouterLink to="/">Back to the cabinet</RouterLink>
  </main>
</template>

<style scoped>
.nowhere {
  display: grid;
  gap: 12px;
  place-content: center;
  min-height: 100%;
  text-align: center;
}
</style>
