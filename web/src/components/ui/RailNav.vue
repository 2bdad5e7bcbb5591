<script setup lang="ts">
import { useMe } from '@/stores/me';
import { useRoute } from 'vue-router';

const store = useMe();
const route = useRoute();
defineEmits<{ keys: [] }>();
const places = [
  {
    to: '/today',
    name: 'Today',
    holds: /^\/today/,
    icon: 'M3 18.5h18M6 15a6 6 0 0 1 12 0M12 3.5v3M4.8 7.2l2 2M19.2 7.2l-2 2M2.5 15h1.5M20 15h1.5',
  },
  {
    to: '/banks',
    name: 'Banks',
    holds: /^\/(banks|rounds|visits|runs)/,
    icon: 'M8.8 6v12.5M15.2 6v12.5M5 3.8h2.4M6.2 2.6V5M16.8 3.8h2.4M2.5 6h19v12.5h-19z',
  },
  {
    to: '/calculators',
    name: 'Calculators',
    holds: /^\/calculators/,
    icon: 'M12 2.5v6M9.2 8.5h5.6v8a2.8 2.8 0 0 1-5.6 0zM9.2 12.5h5.6M4 21.5h16',
  },
  {
    to: '/library',
    name: 'Library',
    holds: /^\/library/,
    icon: 'M3 20.5h18M5 20V6h3.5v14M8.5 20V9H12v11M13.3 9.8l3.2-.9 3 10.8',
  },
  {
    to: '/settings',
    name: 'Settings',
    holds: /^\/settings/,
    icon: 'M3 6.5h18M3 12h18M3 17.5h18M8 4v5M16 9.5v5M10 15v5',
  },
];
</script>

<template>
  <nav class="rail" aria-label="Main">
    <RouterLink to="/today" class="mark" aria-label="Rainshadow, today">
      <svg width="40" height="34" viewBox="0 0 40 34" aria-hidden="true">
        <path d="M2 29L19 7l7 9 3-3 9 16z" fill="none" stroke="var(--ink)" stroke-width="2" />
        <path d="M19 7l7 9 3-3 9 16H15z" fill="var(--ink)" />
        <path d="M9 4L5.5 11M14.5 3L11 10M5 13.5L2.5 18.5" stroke="var(--action)" stroke-width="2" />
      </svg>
    </RouterLink>
    <RouterLink
      v-for="p in places"
      :key="p.to"
      :to="p.to"
      class="place"
      :class="{ on: p.holds.test(route.path) }"
    >
      <svg viewBox="0 0 24 24" fill="none" stroke="currentColor" stroke-width="1.6" aria-hidden="true">
        <path :d="p.icon" />
      </svg>
      {{ p.name }}
    </RouterLink>
    <div class="foot">
      <button type="button" class="place" :aria-pressed="store.dim" @click="store.toggleTheme()">
        <svg viewBox="0 0 24 24" fill="none" stroke="currentColor" stroke-width="1.6" aria-hidden="true">
          <path d="M4 11l8-6 8 6v9H4z" />
          <path d="M12 20v-6" />
        </svg>
        {{ store.dim ? 'Day light' : 'Shed light' }}
      </button>
      <button type="button" class="place keys" @click="$emit('keys')"><kbd>?</kbd>Keys</button>
    </div>
  </nav>
</template>

<style scoped>
.rail {
  background: var(--sunk);
  border-right: 1px solid var(--line);
  display: flex;
  flex-direction: column;
  padding-top: 14px;
}
.mark {
  display: flex;
  justify-content: center;
  height: 40px;
  margin-bottom: 12px;
}
.place {
  position: relative;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 3px;
  padding: 9px 4px 8px;
  text-decoration: none;
  color: var(--ink-2);
  font: 500 12px/15px var(--text);
  background: none;
  border: 0;
  cursor: pointer;
  text-align: center;
  width: 100%;
}
.place svg {
  width: 24px;
  height: 24px;
}
.place.on {
  background: var(--ground);
  color: var(--ink);
  font-weight: 700;
}
.place.on::before {
  content: '';
  position: absolute;
  left: 0;
  top: 0;
  bottom: 0;
  width: 3px;
  background: var(--action);
}
.place:focus-visible {
  outline-offset: -2px;
}
.foot {
  margin-top: auto;
  padding-bottom: 10px;
}
@media (max-width: 720px) {
  .rail {
    flex-direction: row;
    padding: 0;
    border-right: 0;
    border-top: 1px solid var(--line);
    height: 68px;
  }
  .mark,
  .keys {
    display: none;
  }
  .foot {
    margin: 0;
    padding: 0;
    flex: 1;
  }
  .place {
    flex: 1;
    height: 68px;
    justify-content: center;
  }
  .place.on::before {
    right: 0;
    bottom: auto;
    width: auto;
    height: 3px;
  }
}
</style>
