<script setup lang="ts">
import { Button as AButton, Input as AInput } from 'ant-design-vue'
import { ref } from 'vue'
import type { LineUpEntry, Variant } from '../../core/piece/line-up'
import MaterialChoice from '../bench/solid/MaterialChoice.vue'
import NumberField from '../common/NumberField.vue'

/** The same shape of another material or size. */
const props = defineProps<{ entry: LineUpEntry }>()
const emit = defineEmits<{ vary: [variant: Variant] }>()
const name = ref(`${props.entry.name}, variant`)
const material = ref<string | null>(null)
const factor = ref(1)
</script>

<template>
  <form class="form" @submit.prevent="emit('vary', { name, material, factor })">
    <label class="pair"
      ><span class="name">Name</span
      ><AInput v-model:value="name" size="small" aria-label="Name of the variant" :maxlength="120"
    /></label>
    <MaterialChoice :value="material" none="as it is" @choose="(id) => (material = id)" />
    <NumberField
      label="Size ×"
      :value="factor"
      unit=""
      :digits="4"
      :min="0.001"
      :max="1000"
      @commit="(v) => (factor = v)"
    />
    <AButton html-type="submit" type="primary" size="small">Make the variant</AButton>
  </form>
</template>

<style scoped src="./form.css"></style>
