<script setup lang="ts">
import { computed, ref } from 'vue';
import { keyWords, type Command } from './command';
import { useCommands } from './commands-store';

/** All commands with their keys; each can be given others. */
const commands = useCommands();
const groups = computed(() => {
  const names = [...new Set(commands.all.map(({ group }) => group))];
  return names.map((name) => ({ name, list: commands.all.filter(({ group }) => group === name) }));
});
/** The command that waits for its keys. */
const waiting = ref<string | null>(null);
const note = ref('');
const changed = computed(() => Object.keys(commands.chosen).length > 0);

function ask(command: Command): void {
  note.value = '';
  waiting.value = waiting.value === command.id ? null : command.id;
}

/** Takes the keys that are pressed. */
function take(event: KeyboardEvent, command: Command): void {
  if (waiting.value !== command.id || ['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return;
  event.preventDefault();
  event.stopPropagation();
  waiting.value = null;
  if (event.key === 'Escape') return;
  const mods = [event.ctrlKey && '$mod', event.altKey && 'Alt', event.shiftKey && 'Shift'].filter(Boolean);
  const keys = [...mods, event.key === ' ' ? 'Space' : event.key].join('+');
  const holder = commands.holderOf(keys);
  commands.setKeys(command, keys);
  note.value =
    holder && holder.id !== command.id ? `“${holder.title}” had ${keyWords(keys)} and is without it now.` : '';
}
</script>

<template>
  <el-dialog
    :model-value="commands.sheet === 'keys'"
    title="Keys"
    width="min(760px, 94vw)"
    @close="commands.sheet = null"
  >
    <p class="quiet lead">
      Press the keys of a command to give it others. No key acts while you type, or where a control uses it itself.
    </p>
    <p v-if="note" class="note" role="status">{{ note }}</p>
    <div class="scroll">
      <div class="groups">
        <section v-for="group in groups" :key="group.name">
          <h3>{{ group.name }}</h3>
          <dl>
            <template v-for="command in group.list" :key="command.id">
              <dt>{{ command.title }}</dt>
              <dd>
                <el-button
                  size="small"
                  :aria-label="`Keys of ${command.title}`"
                  @click="ask(command)"
                  @keydown.capture="take($event, command)"
                  >{{
                    waiting === command.id ? 'Press keys …' : commands.keysOf(command).map(keyWords)[0] || 'none'
                  }}</el-button
                >
              </dd>
            </template>
          </dl>
        </section>
      </div>
    </div>
    <template #footer
      ><el-button :disabled="!changed" @click="commands.resetKeys()">All as they were</el-button
      ><el-button type="primary" @click="commands.sheet = null">Done</el-button></template
    >
  </el-dialog>
</template>

<style scoped>
.lead,
.note {
  margin: 0 0 10px;
}

.note {
  background: var(--amber-wash);
  border-radius: 7px;
  padding: 6px 10px;
}

.scroll {
  max-height: 58vh;
  overflow: auto;
}

.groups {
  columns: 2 300px;
  gap: 26px;
}

section {
  break-inside: avoid;
  margin-bottom: 12px;
}

h3 {
  font-size: 15px;
  margin: 0 0 4px;
}

dl {
  align-items: center;
  display: grid;
  gap: 3px 12px;
  grid-template-columns: 1fr auto;
  margin: 0;
}

dd {
  margin: 0;
}
</style>
