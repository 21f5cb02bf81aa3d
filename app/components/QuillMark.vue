<template>
  <svg class="quill-mark" viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
    <path d="M12 1.5 18 12l-6 10.5L6 12z" fill="none" stroke="currentColor" stroke-width="1.6" />
    <path d="M12 7v13" class="nib" stroke-width="1.8" />
    <circle cx="12" cy="12" r="1.7" fill="currentColor" />
  </svg>
</template>

<style scoped>
.nib { stroke: var(--vermilion); }
</style>
