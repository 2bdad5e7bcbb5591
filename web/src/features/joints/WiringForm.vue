<script setup lang="ts">
import CheckField from '@/components/form/CheckField.vue';
import ChoiceField from '@/components/form/ChoiceField.vue';
import FormFrame from '@/components/form/FormFrame.vue';
import RadioField from '@/components/form/RadioField.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import { computed } from 'vue';
import CableFields from './CableFields.vue';
import { newCable, useWiring } from './useWiring';

const props = defineProps<{
  /** The bank. */
  bank: string;
  /** What a cable counts as. */
  rule: string;
  /** Letters of its strings. */
  strings: string[];
}>();
const emit = defineEmits<{ saved: []; close: [] }>();
const { typed, page, failure, missing, busy, load, save, fault } = useWiring(props.bank);
const several = computed(() => props.strings.length > 1);
/** How many cables there are of a pole. */
const wanted = computed(() => (typed.by === 'busbars' ? props.strings.length : props.strings.length - 1));
const alike = computed({
  get: () => typed.positive.length < 2 && typed.negative.length < 2,
  set: (one: boolean) => {
    for (const all of [typed.positive, typed.negative]) {
      if (one) all.splice(1);
      else while (all.length < wanted.value) all.push({ ...(all[0] ?? newCable()) });
    }
  },
});
function joined(by: unknown): void {
  typed.by = by === 'none' ? null : (by as 'rails' | 'busbars');
  alike.value = true;
}
const name = (pole: string, i: number, all: unknown[]): string => {
  if (typed.by === 'busbars')
    return all.length > 1 ? `${pole}, lead of ${props.strings[i]}` : `${pole}, lead of each string`;
  return all.length > 1 || wanted.value === 1
    ? `${pole}, from ${props.strings[i]} to ${props.strings[i + 1]}`
    : `${pole}, from string to string`;
};
const tag = (pole: string, i: number, all: unknown[]): string => (all.length > 1 ? `${pole} ${i + 1}` : pole);
async function keep(): Promise<void> {
  if (await save()) emit('saved');
}
</script>

<template>
  <LoadingLines v-if="!page && !missing" />
  <FailureNote v-else-if="missing" :failure="missing" again @again="load" />
  <FormFrame v-else class="wiring" :failure="failure" @submit="keep">
    <CableFields
      v-model="typed.link"
      name="Link from a battery to the next"
      tag="Link"
      :fault="(field: string) => fault(`link.${field}`)"
    />
    <template v-if="several">
      <RadioField
        :model-value="typed.by ?? 'none'"
        label="How the strings come together"
        :options="[
          { value: 'rails', label: 'by cables from string to string' },
          { value: 'busbars', label: 'by leads of each string to two busbars' },
          { value: 'none', label: 'not told' },
        ]"
        :error="fault('by')"
        @update:model-value="joined"
      />
      <template v-if="typed.by">
        <CheckField v-if="wanted > 1" v-model="alike" label="All of a pole are alike" />
        <CableFields
          v-for="(_, i) in typed.positive"
          :key="`+${i}`"
          v-model="typed.positive[i]!"
          :name="name('Plus', i, typed.positive)"
          :tag="tag('Plus', i, typed.positive)"
          :fault="(field: string) => fault(`positive[${i}].${field}`)"
        />
        <CableFields
          v-for="(_, i) in typed.negative"
          :key="`-${i}`"
          v-model="typed.negative[i]!"
          :name="name('Minus', i, typed.negative)"
          :tag="tag('Minus', i, typed.negative)"
          :fault="(field: string) => fault(`negative[${i}].${field}`)"
        />
        <div v-if="typed.by === 'rails'" class="off">
          <ChoiceField
            v-model="typed.plus_at"
            label="Plus to the system comes off at string"
            :options="strings.map((s) => ({ value: s, label: s }))"
            :error="fault('plus_at')"
          />
          <ChoiceField
            v-model="typed.minus_at"
            label="Minus comes off at string"
            :options="strings.map((s) => ({ value: s, label: s }))"
            :error="fault('minus_at')"
          />
        </div>
      </template>
    </template>
    <p class="small dim">Measure the cable from lug to lug; the section is printed on it. {{ rule }}</p>
    <p class="do">
      <button type="button" class="btn" @click="emit('close')">Back</button>
      <button type="submit" class="btn go" :disabled="busy">Keep</button>
    </p>
  </FormFrame>
</template>

<style scoped>
.wiring {
  display: grid;
  gap: 16px;
}
.off {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.do {
  display: flex;
  gap: 10px;
  justify-content: flex-end;
}
</style>
