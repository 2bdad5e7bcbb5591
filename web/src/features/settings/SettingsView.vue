<script setup lang="ts">
import CalendarPanel from './CalendarPanel.vue';
import DevicesPanel from './DevicesPanel.vue';
import YouPanel from './YouPanel.vue';
import WhereLine from '@/components/ui/WhereLine.vue';
</script>

<template>
  <WhereLine place="Settings" :parts="['you, units, devices']"
    ><a class="btn sm" href="/api/docs/">The HTTP interface</a></WhereLine
  >
  <h1>What this device knows of you, and who else is let in.</h1>
  <section>
    <h2>You</h2>
    <YouPanel />
  </section>
  <section>
    <h2>Your calendar</h2>
    <CalendarPanel />
  </section>
  <section>
    <h2>Devices</h2>
    <DevicesPanel />
  </section>
  <section>
    <h2>Copies of everything</h2>
    <p class="small">
      A copy is taken on the machine that keeps the folder, also while it is in use, and looked through before
      it is trusted:
    </p>
    <p class="fig small">
      rainshadow backup FILE · rainshadow backup --verify FILE · rainshadow restore FILE
    </p>
    <p class="small">
      One bank with all its years is a file too: under <b>More</b> on its page, and taken in on Banks.
    </p>
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--line);
  margin-top: 18px;
  padding-top: 12px;
}
</style>
