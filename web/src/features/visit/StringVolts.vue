<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import type { Schemas } from '@/api/client';
import type { Visit } from './useVisit';
import { computed, reactive } from 'vue';

const props = defineProps<{
  /** The rest check. */
  rest: Schemas['RestView'];
  /** The visit. */
  visit: Visit;
  /** Batteries in the order of the plan. */
  order: string[];
}>();
const byBattery = computed(() => new Map(props.rest.batteries.map((b) => [b.battery, b])));
const strings = reactive<Record<string, string>>({});
const along = reactive<Record<string, string>>({});
const string = (letter: string) =>
  props.visit.say({ kind: 'string_volts', typed: strings[letter] ?? '' }, letter);
const link = (battery: string) =>
  props.visit.say({ kind: 'along_volts', typed: along[battery] ?? '' }, battery);
</script>

<template>
  <section class="strings">
    <h2>{{ rest.strings.length > 1 ? 'Strings, isolated' : 'The string' }}</h2>
    <FormFrame
      v-for="s in rest.strings"
      :key="s.letter"
      class="string"
      :failure="visit.failure.value"
      elsewhere
      @submit="string(s.letter)"
    >
      <TextField
        v-model="strings[s.letter]"
        :placeholder="s.volts ?? ''"
        :label="`Volts across string ${s.letter}`"
        figure
        :error="visit.fault('typed', 'string_volts', s.letter)"
      />
      <button v-if="visit.open.value" type="submit" class="btn">Keep</button>
      <p class="small">
        <template v-if="s.volts"
          >reads <b class="fig">{{ s.volts }}</b> V</template
        >
        <template v-if="s.sum"
          >{{ s.volts ? ', its' : 'Its' }} batteries add up to <b class="fig">{{ s.sum }}</b> V</template
        >
      </p>
    </FormFrame>
    <details v-if="rest.strings.some((s) => s.short)" open class="walk">
      <summary>Walk the links: from the string’s + to each battery’s −</summary>
      <FormFrame
        v-for="b in order"
        :key="b"
        class="string"
        :failure="visit.failure.value"
        elsewhere
        @submit="link(b)"
      >
        <TextField
          v-model="along[b]"
          :placeholder="byBattery.get(b)?.along ?? ''"
          :label="`To − of ${b}`"
          figure
          :error="visit.fault('typed', 'along_volts', b)"
        />
        <button type="submit" class="btn sm">Keep</button>
      </FormFrame>
    </details>
  </section>
</template>

<style scoped>
.strings {
  border-top: 1px solid var(--line);
  margin-top: 12px;
  padding-top: 10px;
}
.string {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: flex-end;
  margin-top: 6px;
}
.string .field {
  width: 170px;
}
.walk {
  margin-top: 12px;
}
</style>
