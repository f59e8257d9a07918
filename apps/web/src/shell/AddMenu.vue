<script setup lang="ts">
import { PhPlus } from '@phosphor-icons/vue';

/** A button that opens a list of things to add. */
defineProps<{ title: string; items: readonly { name: string; title: string }[] }>();
const emit = defineEmits<{ add: [name: string] }>();
</script>

<template>
  <el-dropdown trigger="click" max-height="340px" @command="(name: string) => emit('add', name)">
    <el-button class="add"><PhPlus :size="16" />{{ title }}</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="item in items" :key="item.name" :command="item.name">{{
          item.title
        }}</el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.add {
  border-style: dashed;
  width: 100%;
}
</style>
