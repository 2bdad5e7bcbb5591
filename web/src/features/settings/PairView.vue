<script setup lang="ts">
import FormFrame from '@/components/form/FormFrame.vue';
import TextField from '@/components/form/TextField.vue';
import { api, need, type Failure } from '@/api/client';
import { ref, shallowRef } from 'vue';
import { useRoute } from 'vue-router';

const route = useRoute();
const code = ref((route.query.code as string | undefined) ?? '');
const name = ref('');
const failure = shallowRef<Failure | null>(null);
const busy = ref(false);

async function pair(): Promise<void> {
  busy.value = true;
  failure.value = null;
  try {
    await need(api.POST('/api/pair', { body: { code: code.value, name: name.value } }));
    // Loaded anew: everything is open to this device now.
    location.assign('/today');
  } catch (error) {
    failure.value = error as Failure;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <FormFrame class="pair" :failure="null" @submit="pair">
    <h1>Pair this phone with the desk.</h1>
    <p>On the desk, open Settings, press “Pair a phone”, and type the eight digits here.</p>
    <TextField
      id="code"
      v-model="code"
      inputmode="numeric"
      autocomplete="one-time-code"
      label="Code"
      figure
      :error="failure?.message"
    />
    <TextField v-model="name" :maxlength="40" placeholder="MO’s phone" label="What this phone is called" />
    <button type="submit" class="btn go" :disabled="busy">Pair</button>
  </FormFrame>
</template>

<style scoped>
.pair {
  display: grid;
  gap: 14px;
  max-width: 420px;
  padding: 16px;
}
#code {
  font-size: 28px;
  height: 56px;
  letter-spacing: 2px;
}
</style>
