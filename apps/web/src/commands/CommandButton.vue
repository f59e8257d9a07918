<script setup lang="ts">
import { computed } from 'vue';
import { isEnabled } from './command';
import { useCommands } from './commands-store';

/** A button for a command: its name, icon, keys and whether it can be done now all come from the command. */
const props = defineProps<{ command: string; words?: boolean; primary?: boolean }>();
const commands = useCommands();
const command = computed(() => commands.find(props.command));
</script>

<template>
  <el-tooltip v-if="command" :content="commands.hint(command)" :show-after="500" :enterable="false">
    <el-button
      :class="{ icon: !words }"
      :type="primary ? 'primary' : 'default'"
      :text="!primary"
      :disabled="!isEnabled(command)"
      :aria-label="command.title"
      @click="command.run()"
      ><component :is="command.icon" v-if="command.icon" :size="19" weight="bold" /><template
        v-if="words || !command.icon"
        >{{ command.title }}</template
      ></el-button
    >
  </el-tooltip>
</template>

<style scoped>
.el-button {
  gap: 6px;
  margin: 0;
}

.icon {
  padding: 0 7px;
}
</style>
