<script setup lang="ts">
import { useTitle } from './title';
useTitle('Not here');
</script>

<script setup lang="ts"></script>

<template>
  <section class="lost">
    <h1>Nobody on this stage</h1>
    <p class="quiet">There is no page at this address. It may have been a take that was removed.</p>
    <RouterLink to="/footage">Go to the footage</RouterLink>
  </section>
</template>

<style scoped>
.lost {
  padding: 80px 24px;
  text-align: center;
}

a {
  color: var(--amber);
  font-weight: 600;
}
</style>
