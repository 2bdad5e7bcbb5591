import { ref } from 'vue';

/** What failed in the page itself; empty: nothing. */
export const broken = ref('');
