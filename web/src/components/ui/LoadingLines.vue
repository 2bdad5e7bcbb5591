<template>
  <div class="loading" role="status"><span class="visually-hidden">Loading</span><i /><i /><i /></div>
</template>

<style scoped>
.loading {
  display: grid;
  gap: 12px;
  padding: 16px 0;
}
i {
  height: 14px;
  background: var(--sunk);
  border-radius: var(--radius);
  width: 60%;
}
i:nth-child(3) {
  width: 80%;
}
i:nth-child(4) {
  width: 40%;
}
</style>
