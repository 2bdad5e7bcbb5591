<script setup lang="ts">
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
  <form class="pair" @submit.prevent="pair">
    <h1>Pair this phone with the desk.</h1>
    <p>On the desk, open the Shelf, press “Pair a phone”, and type the eight digits here.</p>
    <div class="field">
      <label for="code">Code</label>
      <input
        id="code"
        v-model="code"
        class="text mono"
        inputmode="numeric"
        autocomplete="one-time-code"
        :aria-invalid="!!failure"
      />
      <span v-if="failure" class="fault" role="alert">{{ failure.message }}</span>
    </div>
    <div class="field">
      <label for="phone-name">What this phone is called</label>
      <input id="phone-name" v-model="name" class="text" maxlength="40" placeholder="MO’s phone" />
    </div>
    <button type="submit" class="btn go" :disabled="busy">Pair</button>
  </form>
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
