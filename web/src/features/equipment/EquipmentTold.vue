<script setup lang="ts">
import ConditionMark from '@/components/ui/ConditionMark.vue';
import type { Schemas } from '@/api/client';

defineProps<{
  /** What stands there. */
  page: Schemas['EquipmentPage'];
}>();
</script>

<template>
  <div class="told">
    <section v-if="page.air">
      <h3>Air</h3>
      <p class="mark"><ConditionMark :condition="page.air_condition" />{{ page.air }}</p>
      <p class="small dim">{{ page.air_rule }}</p>
    </section>
    <section v-if="page.fittings.length">
      <h3>Switches, fuses, balancers</h3>
      <ul>
        <li v-for="own in page.fittings" :key="own">{{ own }}</li>
      </ul>
    </section>
    <section v-if="page.surroundings.length || page.equipment.could_hole">
      <h3>Where it stands</h3>
      <ul>
        <li v-if="page.equipment.could_hole"><b>Could hole a case:</b> {{ page.equipment.could_hole }}</li>
        <li v-for="own in page.surroundings" :key="own.name">
          <b>{{ own.name }}.</b> {{ own.meaning }}
        </li>
      </ul>
    </section>
    <section v-if="page.own_numbers.length">
      <h3>Your numbers</h3>
      <p>
        <span v-for="own in page.own_numbers" :key="own.name" class="number"
          ><b class="fig">{{ own.name }}</b> {{ own.meaning }}</span
        >
      </p>
    </section>
    <section v-if="page.hook_up.length">
      <h3>Cables, in the order they are connected</h3>
      <ol>
        <li v-for="own in page.hook_up" :key="own">{{ own }}</li>
      </ol>
    </section>
  </div>
</template>

<style scoped>
section {
  margin-top: 16px;
}
h3 {
  font: var(--t-title);
  margin-bottom: 4px;
}
.mark {
  display: flex;
  gap: 8px;
  align-items: flex-start;
}
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
ol {
  padding-left: 20px;
  list-style: decimal;
}
.number {
  display: inline-block;
  margin-right: 16px;
}
</style>
