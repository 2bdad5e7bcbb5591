<script setup lang="ts">
import { offered, type Offer } from '@/composables/useUndo';
import { message } from 'ant-design-vue';
import { h, onMounted } from 'vue';

const props = defineProps<{
  /** What was done, and how it is taken back. */
  offer: Offer;
}>();
/** Seconds for which it can be taken back. */
const FOR = 12;
const [api, Holder] = message.useMessage();

onMounted(() => {
  const close = api.open({
    type: 'info',
    duration: FOR,
    icon: h('span'),
    class: 'said',
    content: h('span', { role: 'status' }, [
      `${props.offer.said} `,
      h('button', { type: 'button', class: 'btn sm', onClick: () => press() }, 'Undo'),
    ]),
    onClose: () => {
      if (offered.value === props.offer) offered.value = null;
    },
  });
  function press(): void {
    close();
    props.offer.undo().catch((error: unknown) => {
      void api.open({ type: 'error', duration: FOR, icon: h('span'), content: (error as Error).message });
    });
  }
});
</script>

<template>
  <Holder />
</template>
