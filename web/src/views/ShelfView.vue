<script setup lang="ts">
import { api, need, type Failure } from '@/api/client';
import CalendarPanel from '@/components/shelf/CalendarPanel.vue';
import DevicesPanel from '@/components/shelf/DevicesPanel.vue';
import HouseRulesTable from '@/components/shelf/HouseRulesTable.vue';
import ModelTable from '@/components/shelf/ModelTable.vue';
import FailureNote from '@/components/ui/FailureNote.vue';
import LoadingLines from '@/components/ui/LoadingLines.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
import { useRemote } from '@/composables/useRemote';
import { useMe } from '@/stores/me';
import { ref, shallowRef } from 'vue';

const store = useMe();
const models = useRemote(() => need(api.GET('/api/models')));
const rules = useRemote(() => need(api.GET('/api/house-rules')));
const choices = useRemote(() => need(api.GET('/api/house-rules/choices')));
const failure = shallowRef<Failure | null>(null);
const said = ref('');

async function save(): Promise<void> {
  said.value = '';
  failure.value = null;
  try {
    await store.save();
    said.value = 'Saved.';
    // The models are said in the units just chosen.
    await models.load();
  } catch (error) {
    failure.value = error as Failure;
  }
}
</script>

<template>
  <WhereLine place="Shelf" :parts="['you, battery models, house rules']"
    ><a class="btn sm" href="/api/docs/">The HTTP interface</a></WhereLine
  >
  <h1>What this device knows of you, and what banks are judged by.</h1>
  <section>
    <h2>You</h2>
    <FailureNote :failure="failure" />
    <form class="you" @change="save" @submit.prevent="save">
      <div class="field">
        <label for="initials">Initials</label
        ><input
          id="initials"
          v-model="store.me.initials"
          class="text"
          maxlength="4"
          :aria-invalid="!!failure?.fields.initials"
        />
      </div>
      <div class="field">
        <label for="device">This device</label
        ><input id="device" v-model="store.me.device" class="text" maxlength="24" />
      </div>
      <div class="field">
        <label for="u-t">Temperature</label
        ><select id="u-t" v-model="store.me.temperature" class="text">
          <option value="C">°C</option>
          <option value="F">°F</option>
        </select>
      </div>
      <div class="field">
        <label for="u-v">Volume</label
        ><select id="u-v" v-model="store.me.volume" class="text">
          <option value="litre">litres</option>
          <option value="us_gallon">US gallons</option>
        </select>
      </div>
      <div class="field">
        <label for="u-l">Length</label
        ><select id="u-l" v-model="store.me.length" class="text">
          <option value="millimetre">mm</option>
          <option value="inch">inches</option>
        </select>
      </div>
      <label class="check"
        ><input v-model="store.me.singleKeys" type="checkbox" /> single-key shortcuts</label
      >
    </form>
    <p class="small said" role="status">{{ said }}</p>
  </section>
  <section>
    <h2>Battery models</h2>
    <LoadingLines v-if="models.loading.value && !models.data.value" />
    <FailureNote
      v-else-if="models.failure.value"
      :failure="models.failure.value"
      again
      @again="models.load()"
    />
    <ModelTable v-else :models="models.data.value ?? []" @changed="models.load()" />
  </section>
  <section>
    <h2>House rules</h2>
    <p class="small">
      Three sets ship, read-only; copy one to make your own. Each bank is judged by one of them, with single
      choices of its own where it needs them; findings say where another set would judge differently.
    </p>
    <LoadingLines v-if="rules.loading.value" />
    <FailureNote v-else-if="rules.failure.value" :failure="rules.failure.value" again @again="rules.load()" />
    <HouseRulesTable
      v-else
      :sets="rules.data.value ?? []"
      :choices="choices.data.value ?? []"
      @changed="
        rules.load();
        choices.load();
      "
    />
  </section>
  <section>
    <h2>Your calendar</h2>
    <CalendarPanel />
  </section>
  <section>
    <h2>Devices</h2>
    <DevicesPanel />
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  margin-top: 18px;
  padding-top: 12px;
}
.you {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: flex-end;
  margin-top: 8px;
}
.you .field {
  width: 140px;
}
.check {
  padding-bottom: 9px;
}
/* Kept open, so that nothing moves under a finger while it is saved. */
.said {
  min-height: 17px;
}
</style>
