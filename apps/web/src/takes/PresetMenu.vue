<script setup lang="ts">
import { PhFaders, PhTrash } from '@phosphor-icons/vue';
import { ElMessageBox } from 'element-plus';
import { PresetSettings, type PresetView } from '@merry-shadow/contracts/performer';
import type { TakeSettings } from '@merry-shadow/contracts/take';
import { addPreset, removePreset } from '../api/client';
import { attempt } from '../shell/trouble';
import { useProduction } from '../stores/production';

/** Presets: settings with a name. They are laid over takes, and made of the settings of one. */
const props = defineProps<{ settings: TakeSettings | null; disabled?: boolean }>();
const emit = defineEmits<{ use: [preset: PresetView] }>();
const production = useProduction();

async function keep(): Promise<void> {
  const answer = await ElMessageBox.prompt('How these settings shall be called:', 'Keep as a preset', {
    inputValidator: (text) => (text.trim().length > 0 && text.length <= 60) || 'A name has 1 to 60 characters.',
    confirmButtonText: 'Keep',
    cancelButtonText: 'Cancel',
  }).catch(() => null);
  if (answer && production.id)
    await attempt(() => addPreset(production.id as string, answer.value.trim(), PresetSettings.parse(props.settings)));
}

async function chosen(what: 'keep' | PresetView): Promise<void> {
  if (what === 'keep') await keep();
  else emit('use', what);
}
</script>

<template>
  <el-dropdown trigger="click" :disabled="disabled" @command="chosen">
    <el-button :disabled="disabled" size="small"><PhFaders :size="16" />Presets</el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="preset in production.presets" :key="preset.id" :command="preset" class="preset">
          <span>{{ preset.name }}</span>
          <el-button
            text
            size="small"
            :aria-label="`Remove the preset ${preset.name}`"
            title="Remove"
            @click.stop="attempt(() => removePreset(preset.id))"
            ><PhTrash :size="15"
          /></el-button>
        </el-dropdown-item>
        <el-dropdown-item v-if="settings" command="keep" :divided="production.presets.length > 0"
          >Keep these settings as a preset</el-dropdown-item
        >
        <el-dropdown-item v-else-if="production.presets.length === 0" disabled
          >None yet. Keep one from the settings of a take.</el-dropdown-item
        >
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.preset {
  display: flex;
  gap: 16px;
  justify-content: space-between;
}
</style>
