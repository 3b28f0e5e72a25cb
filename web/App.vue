<script setup lang="ts">
import { ConfigProvider, App as AntApp } from 'ant-design-vue'
import { computed } from 'vue'
import { usePreferences } from './stores/preferences'
import { antTheme } from './theme'

const preferences = usePreferences()
const theme = computed(() => antTheme(preferences.dark))
</script>

<template>
  <ConfigProvider :theme="theme">
    <AntApp class="app">
      <RouterView />
    </AntApp>
  </ConfigProvider>
</template>

<style scoped>
.app {
  height: 100%;
}
</style>
