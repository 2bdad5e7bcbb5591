<script setup lang="ts">
import type { Schemas } from '@/api/client';
import { ref } from 'vue';
import HouseRulesForm from './HouseRulesForm.vue';

const props = defineProps<{
  /** The sets, default first. */
  sets: Schemas['HouseRulesView'][];
  /** Every choice with its numbers in the sets. */
  choices: Schemas['ChoiceView'][];
}>();
const emit = defineEmits<{ changed: [] }>();
/** The set that is copied or edited. */
const editing = ref<{ from: Schemas['HouseRulesView']; copy: boolean } | null>(null);
const say = (c: Schemas['ChoiceView'], key: string): string =>
  c.values[key] === undefined ? c.when_empty : `${c.values[key]} ${c.unit}`;
const differs = (c: Schemas['ChoiceView']): boolean =>
  new Set(props.sets.map((s) => c.values[s.key])).size > 1;
function saved(): void {
  editing.value = null;
  emit('changed');
}
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="House rules side by side">
    <table class="plain">
      <thead>
        <tr>
          <th>Choice</th>
          <th v-for="s in sets" :key="s.key">{{ s.name }}</th>
          <th>Source</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>Suits</td>
          <td v-for="s in sets" :key="s.key" class="small">{{ s.suits }}</td>
          <td />
        </tr>
        <tr>
          <td>The maker’s own limits win</td>
          <td v-for="s in sets" :key="s.key" class="fig">{{ s.maker_limits_win ? 'yes' : 'no' }}</td>
          <td class="small dim">school of practice</td>
        </tr>
        <tr v-for="c in choices" :key="c.key" :class="{ same: !differs(c) }">
          <td>{{ c.said }}</td>
          <td v-for="s in sets" :key="s.key" class="fig">{{ say(c, s.key) }}</td>
          <td class="small dim">{{ c.source }}</td>
        </tr>
        <tr>
          <td />
          <td v-for="s in sets" :key="s.key">
            <button type="button" class="btn sm" @click="editing = { from: s, copy: true }">
              Copy <span class="visually-hidden">{{ s.name }}</span>
            </button>
            <button
              v-if="!s.shipped"
              type="button"
              class="btn sm"
              @click="editing = { from: s, copy: false }"
            >
              Edit <span class="visually-hidden">{{ s.name }}</span>
            </button>
          </td>
          <td />
        </tr>
      </tbody>
    </table>
  </div>
  <HouseRulesForm
    v-if="editing"
    :key="`${editing.from.key} ${editing.copy}`"
    :from="editing.from"
    :copy="editing.copy"
    :choices="choices"
    @saved="saved"
    @close="editing = null"
  />
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.same td {
  color: var(--ink-3);
}
</style>
