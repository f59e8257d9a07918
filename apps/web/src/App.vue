<script setup lang="ts">
import {
  PhCheck,
  PhFilmSlate,
  PhHardDrives,
  PhKeyboard,
  PhMagnifyingGlass,
  PhMoon,
  PhPersonSimpleWalk,
  PhSun,
  PhWarning,
  PhWebcam,
} from '@phosphor-icons/vue';
import { useEventListener } from '@vueuse/core';
import { onMounted, onUnmounted } from 'vue';
import CommandPalette from './commands/CommandPalette.vue';
import { provideCommands, useCommands } from './commands/commands-store';
import KeySheet from './commands/KeySheet.vue';
import { router } from './router';
import { houseCommands } from './shell/house-commands';
import ProductionMenu from './shell/ProductionMenu.vue';
import { useProduction } from './stores/production';
import { useSaving } from './stores/saving';
import { useNight } from './theme/night';

const night = useNight();
const production = useProduction();
const saving = useSaving();
const commands = useCommands();
provideCommands(houseCommands(router));
const hint = (id: string): string => {
  const command = commands.find(id);
  return command ? commands.hint(command) : '';
};
useEventListener(window, 'keydown', commands.press);
onMounted(() => production.listen());
onUnmounted(() => production.unlisten());
</script>

<template>
  <div class="house">
    <header>
      <RouterLink to="/footage" class="name"
        ><img src="/lamp.svg" alt="" width="28" height="28" />Merry Shadow</RouterLink
      >
      <ProductionMenu />
      <nav aria-label="Rooms">
        <RouterLink to="/footage"><PhFilmSlate :size="18" weight="duotone" />Footage</RouterLink>
        <RouterLink to="/record"><PhWebcam :size="18" weight="duotone" />Record</RouterLink>
        <RouterLink to="/takes"><PhPersonSimpleWalk :size="18" weight="duotone" />Takes</RouterLink>
      </nav>
      <span v-if="production.offline" class="offline" role="status"
        >The server does not answer. Is the start command still running?</span
      >
      <span
        v-if="saving.state"
        class="saving"
        :class="saving.state"
        role="status"
        :title="saving.problem"
        data-testid="saving"
        ><PhCheck v-if="saving.state === 'saved'" :size="16" weight="bold" /><PhWarning
          v-else-if="saving.state !== 'saving'"
          :size="16"
          weight="bold"
        />{{ saving.words }}<template v-if="saving.state === 'refused'">: {{ saving.problem }}</template></span
      >
      <div class="tools">
        <el-button
          text
          circle
          :title="hint('house.palette')"
          aria-label="Find a command"
          @click="commands.run('house.palette')"
          ><PhMagnifyingGlass :size="20" weight="duotone"
        /></el-button>
        <el-button text circle :title="hint('house.keys')" aria-label="Keys" @click="commands.run('house.keys')"
          ><PhKeyboard :size="20" weight="duotone"
        /></el-button>
        <el-button text circle title="What takes how much room" aria-label="Disk" @click="commands.run('house.disk')"
          ><PhHardDrives :size="20" weight="duotone"
        /></el-button>
        <el-button
          text
          circle
          :title="hint('house.light')"
          :aria-label="night.night ? 'Turn the lights on' : 'Turn the lights down'"
          @click="night.toggle()"
          ><PhSun v-if="night.night" :size="20" weight="duotone" /><PhMoon v-else :size="20" weight="duotone"
        /></el-button>
      </div>
    </header>
    <main>
      <p v-if="production.trouble" class="trouble" role="alert">
        <PhHardDrives :size="20" weight="duotone" />{{ production.trouble }}
      </p>
      <RouterView v-slot="{ Component, route }"
        ><component :is="Component" :key="`${production.opened} ${route.path}`"
      /></RouterView>
    </main>
    <KeySheet />
    <CommandPalette />
  </div>
</template>

<style scoped>
.house {
  display: grid;
  grid-template-rows: 52px minmax(0, 1fr);
  height: 100%;
}

header {
  align-items: stretch;
  background: var(--sheet);
  border-bottom: 1px solid var(--edge);
  display: flex;
  gap: 20px;
  padding: 0 20px;
}

.name {
  align-items: center;
  color: var(--ink);
  display: flex;
  font: 600 20px var(--display);
  gap: 10px;
  text-decoration: none;
}

nav {
  display: flex;
  gap: 4px;
}

nav a {
  align-items: center;
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
  color: var(--ink-soft);
  display: flex;
  font-weight: 600;
  gap: 7px;
  padding: 0 14px;
  text-decoration: none;
}

nav a:hover {
  color: var(--ink);
}

nav a.router-link-active {
  border-bottom-color: var(--amber-glow);
  color: var(--ink);
}

.offline {
  align-self: center;
  background: var(--berry-wash);
  border-radius: 6px;
  color: var(--berry);
  font-weight: 600;
  padding: 3px 10px;
}

.trouble {
  align-items: center;
  background: var(--berry-wash);
  border-bottom: 1px solid var(--berry);
  color: var(--berry);
  display: flex;
  font-weight: 600;
  gap: 9px;
  margin: 0;
  padding: 8px 20px;
}

.saving {
  align-items: center;
  align-self: center;
  color: var(--ink-soft);
  display: flex;
  font-size: 14px;
  gap: 6px;
  margin-left: auto;
}

.saving.unsaved,
.saving.refused {
  background: var(--berry-wash);
  border-radius: 6px;
  color: var(--berry);
  font-weight: 600;
  padding: 3px 10px;
}

.tools {
  align-items: center;
  display: flex;
  margin-left: auto;
}

.saving + .tools {
  margin-left: 0;
}

.tools .el-button {
  color: var(--ink-soft);
  margin: 0;
}

main {
  min-height: 0;
  overflow: auto;
}
</style>
