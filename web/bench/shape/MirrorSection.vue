<script setup lang="ts">
import { Button as AButton, RadioButton as ARadioButton, RadioGroup as ARadioGroup } from 'ant-design-vue'
import { ref } from 'vue'
import { usePiece } from '../../stores/piece'
import { newId } from '../new-id'
import PieceLength from './PieceLength.vue'

/** A piece that is the same at both ends. */
const piece = usePiece()
const heights = piece.document.profile.nodes.map((n) => n.z)
const level = ref((Math.min(...heights) + Math.max(...heights)) / 2)
const keep = ref<'below' | 'above'>('below')

function mirror() {
  piece.dispatch({ type: 'mirror-ends', z: level.value, keep: keep.value, idPrefix: newId() })
}
</script>

<template>
  <PieceLength label="About height" :value-mm="level" signed @commit="(mm) => (level = mm)" />
  <div class="row">
    <ARadioGroup v-model:value="keep" size="small" aria-label="Which end stays">
      <ARadioButton value="below">lower end stays</ARadioButton>
      <ARadioButton value="above">upper end stays</ARadioButton>
    </ARadioGroup>
  </div>
  <AButton size="small" data-testid="mirror-ends" @click="mirror">Mirror it to the other end</AButton>
</template>
