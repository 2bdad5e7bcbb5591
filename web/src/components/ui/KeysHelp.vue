<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import { useFocusReturn } from '@/composables/useFocusReturn';
import { useMe } from '@/stores/me';

const open = defineModel<boolean>('open', { required: true });
useFocusReturn(open);
const store = useMe();
const PLACES = [
  { place: 'Everywhere', keys: [['?', 'this help']] },
  { place: 'Today', keys: [['P', 'print what is due and what to load']] },
  { place: 'Banks', keys: [['/', 'find a site, a bank or an address']] },
  {
    place: 'A bank',
    keys: [
      ['R', 'take a round'],
      ['V', 'begin or go on with a visit'],
      ['E', 'equalize'],
      ['1 – 5', 'the lens'],
      ['← →', 'on the plan, from cell to cell'],
    ],
  },
  {
    place: 'A round',
    keys: [
      ['0 – 9', 'the reading: 265 is 1.265'],
      ['Enter', 'judge, store, next cell; at a question: re-read'],
      ['K', 'keep a questioned reading'],
      ['N', 'no reading here'],
      ['U', 'undo the last entry'],
      ['T', 'temperature and conditions'],
      ['← →', 'along the path'],
    ],
  },
  {
    place: 'A plan',
    keys: [
      ['K', 'keep it'],
      ['1 – 9', 'the way that is looked at'],
    ],
  },
  { place: 'The water step', keys: [['1 – 5', 'the level']] },
  { place: 'A run', keys: [['P', 'enter a reading']] },
];
</script>

<template>
  <a-modal v-model:open="open" title="Keys" :footer="null">
    <section v-for="p in PLACES" :key="p.place" :aria-label="p.place">
      <h3>{{ p.place }}</h3>
      <dl>
        <template v-for="[key, what] in p.keys" :key="key">
          <dt>
            <kbd>{{ key }}</kbd>
          </dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
    </section>
    <CheckField v-model="store.me.singleKeys" label="Single-key shortcuts" @change="store.save()" />
  </a-modal>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  padding: 6px 0 8px;
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
}
dl {
  display: grid;
  grid-template-columns: 70px minmax(0, 1fr);
  gap: 3px 10px;
}
h3 {
  font-size: 14px;
}
</style>
