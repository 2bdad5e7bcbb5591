<template>
  <div class="loading" role="status">
    <span class="visually-hidden">Loading</span>
    <a-skeleton :title="false" :paragraph="{ rows: 3, width: ['60%', '80%', '40%'] }" />
  </div>
</template>

<style scoped>
.loading {
  padding: 16px 0;
}
.loading :deep(li) {
  background: var(--sunk) !important;
}
</style>
