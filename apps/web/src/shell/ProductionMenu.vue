<script setup lang="ts">
import { PhCaretDown, PhFolders } from '@phosphor-icons/vue';
import { ElMessageBox } from 'element-plus';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useProduction } from '../stores/production';
import { attempt } from './trouble';

/** Which production is open; another one, a new one, a name, put away. */
const production = useProduction();
const router = useRouter();
const open = computed(() => production.productions.filter(({ putAway }) => !putAway));
const away = computed(() => production.productions.filter(({ putAway }) => putAway));

async function askName(title: string, before = ''): Promise<string | null> {
  const answer = await ElMessageBox.prompt('Name of the production', title, {
    inputValue: before,
    inputValidator: (value) =>
      value.trim().length > 0 && value.length <= 80 ? true : 'A name has 1 to 80 characters.',
    confirmButtonText: before ? 'Rename' : 'Make it',
    cancelButtonText: 'Cancel',
  }).catch(() => null);
  return answer && answer.value.trim();
}

async function choose(what: string): Promise<void> {
  const { id, name } = production;
  if (what === 'new') {
    const wanted = await askName('New production');
    if (wanted && (await attempt(() => production.make(wanted)))) await router.push({ name: 'footage' });
  } else if (what === 'rename' && id) {
    const wanted = await askName('Rename this production', name);
    if (wanted) await attempt(() => production.rename(id, wanted));
  } else if (what === 'away' && id) {
    if (await attempt(() => production.putAway(id))) await router.push({ name: 'footage' });
  } else if (what.startsWith('back ')) {
    const wanted = what.slice(5);
    if (await attempt(() => production.bringBack(wanted))) production.open(wanted);
  } else {
    production.open(what);
    await router.push({ name: 'footage' });
  }
}
</script>

<template>
  <el-dropdown trigger="click" @command="choose">
    <el-button text class="which" :aria-label="`Production ${production.name}`"
      ><PhFolders :size="18" weight="duotone" /><span>{{ production.name }}</span
      ><PhCaretDown :size="13"
    /></el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="{ id, name } in open" :key="id" :command="id" :disabled="id === production.id"
          >{{ name }}{{ id === production.id ? ' · open' : '' }}</el-dropdown-item
        >
        <el-dropdown-item divided command="new">New production …</el-dropdown-item>
        <el-dropdown-item command="rename">Rename this one …</el-dropdown-item>
        <el-dropdown-item command="away" :disabled="open.length < 2">Put this one away</el-dropdown-item>
        <el-dropdown-item v-for="({ id, name }, i) in away" :key="id" :divided="i === 0" :command="`back ${id}`"
          >Bring back {{ name }}</el-dropdown-item
        >
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.el-dropdown {
  align-self: center;
}

.which {
  color: var(--ink-soft);
  gap: 7px;
  max-width: 240px;
  padding: 0 8px;
}

.which span {
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
