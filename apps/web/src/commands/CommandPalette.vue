<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { isEnabled, keyWords, type Command } from './command';
import { useCommands } from './commands-store';

/** Find a command by typing a part of its name, and do it. */
const commands = useCommands();
const wanted = ref('');
const at = ref(0);
const field = ref<{ focus: () => void; input: HTMLInputElement }>();
const found = computed(() => {
  const words = wanted.value.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = ({ title, group }: Command): boolean =>
    words.every((word) => `${title} ${group}`.toLowerCase().includes(word));
  return commands.all.filter((command) => isEnabled(command) && fits(command));
});
watch(found, () => (at.value = 0));

function opened(): void {
  wanted.value = '';
  // Element Plus keeps the role of its fields to itself.
  field.value?.input.setAttribute('role', 'combobox');
  field.value?.focus();
}

function move(by: number): void {
  const count = found.value.length;
  if (count > 0) at.value = (at.value + by + count) % count;
  void nextTick(() => document.getElementById(`found-${at.value}`)?.scrollIntoView({ block: 'nearest' }));
}

function choose(command: Command | undefined): void {
  if (!command) return;
  commands.sheet = null;
  // After the dialog has given the focus back.
  setTimeout(() => command.run());
}
</script>

<template>
  <el-dialog
    :model-value="commands.sheet === 'palette'"
    title="Find a command"
    width="min(520px, 94vw)"
    top="12vh"
    @opened="opened"
    @close="commands.sheet = null"
  >
    <el-input
      ref="field"
      v-model="wanted"
      placeholder="What do you want to do?"
      aria-label="Find a command"
      aria-controls="found-commands"
      :aria-expanded="true"
      :aria-activedescendant="`found-${at}`"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
      @keydown.enter.prevent="choose(found[at])"
    />
    <ul id="found-commands" role="listbox" aria-label="Commands">
      <li
        v-for="(command, i) in found"
        :id="`found-${i}`"
        :key="command.id"
        role="option"
        :aria-selected="i === at"
        @click="choose(command)"
        @pointermove="at = i"
      >
        <span>{{ command.title }}</span><span class="quiet">{{ command.group }}</span
        ><kbd v-if="commands.keysOf(command)[0]">{{ keyWords(commands.keysOf(command)[0]) }}</kbd>
      </li>
    </ul>
    <p v-if="found.length === 0" class="quiet" role="status">No command is called so.</p>
  </el-dialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 0;
  max-height: 46vh;
  overflow: auto;
  padding: 0;
}

li {
  align-items: center;
  border-radius: 7px;
  cursor: pointer;
  display: grid;
  gap: 12px;
  grid-template-columns: 1fr auto 84px;
  padding: 5px 10px;
}

li[aria-selected='true'] {
  background: var(--amber-wash);
}

kbd {
  color: var(--ink-soft);
  font: 13px var(--font);
  justify-self: end;
}

p {
  margin: 12px 10px;
}
</style>
