<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { nextTick, reactive, ref } from 'vue';
import type { Visit } from '../useVisit';
import { sayJoint, type JointsOfStep } from './useJoints';

const props = defineProps<{
  /** The step as it stands. */
  own: JointsOfStep;
  /** The visit. */
  visit: Visit;
}>();
const typed = reactive<Record<string, string>>({});
const asked = ref<{ string: string; question: string } | null>(null);
const empty = (string: string): boolean => !typed[string]?.trim();
/** Keeps every figure that is typed; stops at one that is asked about. */
async function keep(stands?: string): Promise<void> {
  asked.value = null;
  for (const { string } of props.own.clamps) {
    if (empty(string)) continue;
    const question = await sayJoint(
      props.visit,
      { joint: 'current', amperes: typed[string]!, stands: stands === string },
      string,
    );
    if (question === undefined) return;
    if (question !== null) {
      asked.value = { string, question };
      return;
    }
    typed[string] = '';
  }
  await nextTick();
  document.getElementById('joint-millivolts')?.focus();
}
</script>

<template>
  <section>
    <h2>Clamp every string, A</h2>
    <FormFrame v-if="visit.open.value" class="row" :failure="visit.failure.value" elsewhere @submit="keep()">
      <TextField
        v-for="c in own.clamps"
        :key="c.string"
        v-model="typed[c.string]!"
        figure
        class="short"
        :label="`String ${c.string}, A`"
        :placeholder="c.amperes"
        :error="visit.fault('amperes', 'joint', c.string)"
      />
      <button
        type="submit"
        class="btn"
        :disabled="visit.saving.value || own.clamps.every((c) => empty(c.string))"
      >
        Keep the currents
      </button>
      <div v-if="asked" class="asking" role="alert">
        <p>{{ asked.question }}</p>
        <button type="button" class="btn" @click="asked = null">Clamp it again</button>
        <button type="button" class="btn" @click="keep(asked!.string)">Keep it as it is</button>
      </div>
    </FormFrame>
    <ul v-if="own.clamps.some((c) => c.entry)" aria-label="Currents of the strings">
      <li v-for="c in own.clamps.filter((k) => k.entry)" :key="c.string">
        <span
          >String {{ c.string }} <b class="fig">{{ c.amperes }}</b> A
          <span class="small dim">{{ c.by }}</span></span
        >
        <button
          v-if="visit.open.value"
          type="button"
          class="btn sm quiet"
          :aria-label="`Wrong entry: current of string ${c.string}`"
          @click="visit.takeBack(c.entry, 'The current is taken back.')"
        >
          Wrong entry
        </button>
      </li>
    </ul>
    <p v-else class="small dim">
      Under one steady load, all of them within a minute. Without them the currents are worked out from the
      cables.
    </p>
  </section>
</template>

<style scoped>
section {
  margin: 10px 0;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: flex-end;
}
.short {
  width: 130px;
}
.asking {
  flex: 1 1 100%;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 4px 0;
  max-width: 460px;
}
@media (max-width: 720px) {
  .short {
    flex: 1 1 40%;
  }
  .row > .btn {
    flex: 1 1 100%;
    height: 48px;
  }
}
</style>
