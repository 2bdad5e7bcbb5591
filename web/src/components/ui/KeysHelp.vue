<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import { useMe } from '@/stores/me';

const open = defineModel<boolean>('open', { required: true });
const store = useMe();
const keys = [
  ['/', 'find a site, a bank or an address, in the banks list'],
  ['R', 'take a round, on a bank’s page'],
  ['V', 'begin or go on with a visit, on a bank’s page'],
  ['E', 'equalize, on a bank’s page'],
  ['P', 'enter a reading, in a run; print, on Today'],
  ['1 – 5', 'the lens, on a bank’s page; the level, in the water step'],
  ['0 – 9', 'the reading, in a round: 265 is 1.265'],
  ['Enter', 'judge, store, next cell; at a question: re-read'],
  ['K', 'keep a questioned reading'],
  ['N', 'no reading here'],
  ['U', 'undo the last entry'],
  ['T', 'temperature and conditions'],
  ['← →', 'along the path; on the plan, from cell to cell'],
];
</script>

<template>
  <a-modal v-model:open="open" title="Keys" :footer="null">
    <table class="plain">
      <tbody>
        <tr v-for="[key, what] in keys" :key="key">
          <td style="width: 80px">
            <kbd>{{ key }}</kbd>
          </td>
          <td>{{ what }}</td>
        </tr>
      </tbody>
    </table>
    <p class="small" style="margin-top: 12px">
      <CheckField v-model="store.me.singleKeys" label="Single-key shortcuts" @change="store.save()" />
    </p>
  </a-modal>
</template>
