<script setup lang="ts">
import { PhWrench } from '@phosphor-icons/vue';
import { computed, ref } from 'vue';
import { nanoid } from 'nanoid';
import { PassRecord } from '@merry-shadow/core/edits/kinds/pass-record';
import { PlantRecord } from '@merry-shadow/core/edits/kinds/plant-record';
import type { EditRecord } from '@merry-shadow/core/edits/registry';
import { passNamed } from '@merry-shadow/core/passes/registry';
import { snagTitle } from '@merry-shadow/core/snags/registry';
import type { Snag, SnagKind } from '@merry-shadow/core/snags/snag';
import { plural } from '../shell/words';
import { useOpenTake } from '../take/open-take';

/** Faults that were found, worst first: go there, mend it. */
const { evaluation, firstObserved, work, goTo } = useOpenTake();
const snags = computed(() => evaluation.snags.value ?? []);
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

function mend({ kind: fault, mend: mending }: Snag): void {
  if (!mending) return;
  const edits = work.edits.value;
  const made: EditRecord[] =
    'pass' in mending
      ? [PassRecord.parse({ ...mending.pass, kind: 'pass', id: nanoid(10) })]
      : mending.plants.map((plant) => PlantRecord.parse({ ...plant, kind: 'plant', id: nanoid(10) }));
  work.changeEdits(`mend ${snagTitle(fault).toLowerCase()}`, { ...edits, records: [...edits.records, ...made] });
}
</script>

<template>
  <p v-if="!evaluation.snags.value" class="quiet hint">Snags are looked for once there is a motion.</p>
  <p v-else-if="snags.length === 0" class="fine">Nothing was found: no pop, no slide, no shake.</p>
  <template v-else>
    <div class="kinds" role="group" aria-label="Kinds of snags">
      <el-button
        size="small"
        round
        :type="kind === null ? 'primary' : 'default'"
        :aria-pressed="kind === null"
        @click="kind = null"
        >all {{ snags.length }}</el-button
      >
      <el-button
        v-for="[name, count] in counts"
        :key="name"
        size="small"
        round
        :type="kind === name ? 'primary' : 'default'"
        :aria-pressed="kind === name"
        @click="kind = kind === name ? null : name"
        >{{ snagTitle(name).toLowerCase() }} {{ count }}</el-button
      >
    </div>
    <ol>
      <li v-for="snag in shown.slice(0, 60)" :key="`${snag.kind} ${snag.joint} ${snag.from}`">
        <button type="button" class="go" @click="goTo(snag.from + firstObserved)">
          <strong>{{ snagTitle(snag.kind) }}</strong>
          <span class="quiet number"
            >{{ words(snag.joint) }} · frame {{ snag.from + firstObserved
            }}{{ snag.until - snag.from > 1 ? `–${snag.until - 1 + firstObserved}` : '' }} ·
            <span class="whole">{{ snag.severity.toFixed(snag.severity < 10 ? 1 : 0) }} {{ snag.unit }}</span></span
          >
        </button>
        <el-button v-if="snag.mend" size="small" :title="mending(snag)" @click="mend(snag)"
          ><PhWrench :size="15" weight="bold" />Mend</el-button
        >
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

.kinds .el-button {
  margin: 0;
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

li .el-button {
  gap: 5px;
}
</style>
