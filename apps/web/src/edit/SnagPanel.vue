<script setup lang="ts">
import { PhWrench } from '@phosphor-icons/vue';
import { computed, ref } from 'vue';
import { passNamed } from '@merry-shadow/core/passes/registry';
import { snagTitle } from '@merry-shadow/core/snags/registry';
import type { Snag, SnagKind } from '@merry-shadow/core/snags/snag';
import { plural } from '../shell/words';
import type { TakeEditor } from './take-editor';

/** Faults that were found, worst first: go there, mend it. */
const props = defineProps<{ editor: TakeEditor; firstObserved: number }>();
const emit = defineEmits<{ seek: [frame: number] }>();
const snags = computed(() => props.editor.evaluated.value?.snags ?? []);
const kind = ref<SnagKind | null>(null);
const counts = computed(() => {
  const counted = new Map<SnagKind, number>();
  for (const snag of snags.value) counted.set(snag.kind, (counted.get(snag.kind) ?? 0) + 1);
  return [...counted];
});
const shown = computed(() => snags.value.filter((snag) => kind.value === null || snag.kind === kind.value));

const words = (joint: string): string =>
  joint
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase()
    .replace('toe', 'ball');
const mending = ({ mend }: Snag): string =>
  mend === null ? '' : 'pass' in mend ? passNamed(mend.pass.pass).title : 'Plant it there';

function mend(snag: Snag): void {
  const { editor } = props;
  const edits = editor.edits.value;
  if (!snag.mend) return;
  if ('pass' in snag.mend) editor.change({ ...edits, passes: [...edits.passes, snag.mend.pass] });
  else editor.change({ ...edits, plants: [...(editor.evaluated.value?.plants ?? []), ...snag.mend.plants] });
}
</script>

<template>
  <p v-if="!editor.evaluated.value" class="quiet hint">Snags are looked for once there is a motion.</p>
  <p v-else-if="snags.length === 0" class="fine">Nothing was found: no pop, no slide, no shake.</p>
  <template v-else>
    <div class="kinds" role="group" aria-label="Kinds of snags">
      <button type="button" :class="{ on: kind === null }" @click="kind = null">all {{ snags.length }}</button>
      <button
        v-for="[name, count] in counts"
        :key="name"
        type="button"
        :class="{ on: kind === name }"
        @click="kind = kind === name ? null : name"
      >
        {{ snagTitle(name).toLowerCase() }} {{ count }}
      </button>
    </div>
    <ol>
      <li v-for="snag in shown.slice(0, 60)" :key="`${snag.kind} ${snag.joint} ${snag.from}`">
        <button type="button" class="go" @click="emit('seek', snag.from + firstObserved)">
          <strong>{{ snagTitle(snag.kind) }}</strong>
          <span class="quiet number"
            >{{ words(snag.joint) }} · frame {{ snag.from + firstObserved
            }}{{ snag.until - snag.from > 1 ? `–${snag.until - 1 + firstObserved}` : '' }} ·
            <span class="whole">{{ snag.severity.toFixed(snag.severity < 10 ? 1 : 0) }} {{ snag.unit }}</span></span
          >
        </button>
        <button v-if="snag.mend" type="button" class="mend" :title="mending(snag)" @click="mend(snag)">
          <PhWrench :size="15" weight="bold" />Mend
        </button>
      </li>
    </ol>
    <p v-if="shown.length > 60" class="quiet hint">… and {{ plural(shown.length - 60, 'more', 'more') }}.</p>
  </template>
</template>

<style scoped>
.whole {
  white-space: nowrap;
}

.hint,
.fine {
  font-size: 14px;
  margin: 4px 0;
}

.fine {
  background: var(--sage-wash);
  border-radius: 7px;
  padding: 7px 10px;
}

.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

.kinds button {
  background: none;
  border: 1px solid var(--edge);
  border-radius: 999px;
  color: var(--ink-soft);
  cursor: pointer;
  font: 13px var(--font);
  padding: 1px 9px;
}

.kinds .on {
  background: var(--ink);
  color: var(--sheet);
}

ol {
  display: flex;
  flex-direction: column;
  gap: 4px;
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  align-items: center;
  border-bottom: 1px solid var(--edge);
  display: flex;
  gap: 4px;
}

.go {
  background: none;
  border: 0;
  color: var(--ink);
  cursor: pointer;
  display: flex;
  flex: 1;
  flex-direction: column;
  font: 14px/1.25 var(--font);
  min-width: 0;
  padding: 5px 2px;
  text-align: left;
}

.go .quiet {
  font-size: 13px;
}

.go:hover strong {
  color: var(--amber);
}

.mend {
  align-items: center;
  background: var(--amber-wash);
  border: 0;
  border-radius: 6px;
  color: var(--ink);
  cursor: pointer;
  display: flex;
  font: 600 13px var(--font);
  gap: 5px;
  padding: 4px 8px;
}

.mend:hover {
  outline: 1px solid var(--amber);
}
</style>
