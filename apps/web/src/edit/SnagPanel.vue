<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { nameWords } from '@merry-shadow/core/motion/name-words';
import { passNamed } from '@merry-shadow/core/passes/registry';
import { snagTitle } from '@merry-shadow/core/snags/registry';
import { isSameSnag, type Snag, type SnagKind } from '@merry-shadow/core/snags/snag';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { withoutRecords } from '@merry-shadow/core/edits/take-edits';
import CommandButton from '../commands/CommandButton.vue';
import { plural } from '../shell/words';
import { useMending } from '../take/mending';
import { useOpenTake } from '../take/open-take';
import OnceHint from '../shell/OnceHint.vue';

/** Faults that were found, worst first: look at each with what would mend it, take that or leave it. */
const { evaluation, firstObserved, work } = useOpenTake();
const { snags, kind, listed, chosen, tried, summary, working, capture, choose, mendAll } = useMending();
const counts = computed(() => {
  const counted = new Map<SnagKind, number>();
  for (const snag of snags.value) counted.set(snag.kind, (counted.get(snag.kind) ?? 0) + 1);
  return [...counted];
});
const dismissed = computed(() => recordsOf(work.edits.value.records, 'dismissed').length);
const list = ref<HTMLOListElement>();
watch(chosen, () => void nextTick(() => list.value?.querySelector('.chosen')?.scrollIntoView({ block: 'nearest' })));

const words = (joint: string): string => nameWords(joint).replace('toe', 'ball');
/** What is proposed, in words. */
const proposal = computed(() => {
  const [record] = tried.value?.records ?? [];
  if (!record) return '';
  if (record.kind === 'pass') return passNamed(record.pass).title;
  return record.kind === 'plant'
    ? `A plant, frames ${record.from + firstObserved.value} to ${record.until - 1 + firstObserved.value}`
    : '';
});
/** What would come of it. */
const outcome = computed(() => {
  if (!chosen.value || !tried.value) return '';
  const was = chosen.value;
  const left = tried.value.snags.find((snag) => isSameSnag(snag, was));
  const now = left ? `${size(left)} instead of ${size(was)}` : 'This one is gone';
  return `${now}; ${plural(tried.value.snags.length, 'snag is', 'snags are')} left instead of ${snags.value.length}.`;
});
const size = ({ severity, unit }: Snag): string => `${severity.toFixed(severity < 10 ? 1 : 0)} ${unit}`;

const bringBack = (): void =>
  work.changeEdits(
    'tell dismissed snags again',
    withoutRecords(work.edits.value, ({ kind: one }) => one === 'dismissed'),
  );
</script>

<template>
  <OnceHint of="snags" />
  <div class="undo">
    <CommandButton command="take.undo" words />
  </div>
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
    <el-button :loading="working" :disabled="listed.length === 0" @click="mendAll">{{
      kind ? `Mend all: ${snagTitle(kind).toLowerCase()}` : 'Mend all'
    }}</el-button>
    <p class="hint quiet">
      Each mending is tried on a copy first, and taken only where fewer and smaller snags are left.
    </p>
  </template>
  <p v-if="summary" class="fine" role="status">{{ summary }}</p>
  <ol v-if="listed.length > 0" ref="list">
    <li
      v-for="snag in listed.slice(0, 60)"
      :key="`${snag.kind} ${snag.joint} ${snag.from}`"
      :class="{ chosen: snag === chosen }"
    >
      <button type="button" class="go" data-testid="snag" :aria-pressed="snag === chosen" @click="choose(snag)">
        <strong>{{ snagTitle(snag.kind) }}</strong>
        <span class="quiet number"
          >{{ words(snag.joint) }} · frame {{ snag.from + firstObserved
          }}{{ snag.until - snag.from > 1 ? `–${snag.until - 1 + firstObserved}` : '' }} ·
          <span class="whole">{{ size(snag) }}</span></span
        >
      </button>
      <div v-if="snag === chosen" class="mending" data-testid="mending">
        <p v-if="!tried" class="quiet" role="status">Trying what would mend it</p>
        <template v-else-if="tried.records.length > 0">
          <p role="status">
            <strong>{{ proposal }}</strong><br />{{ outcome }} The pale figure shows it.
          </p>
        </template>
        <p v-else role="status">
          {{
            snag.mends.length > 0
              ? 'What was tried makes nothing better. Pose it by hand, or leave it.'
              : 'Only you can tell what is right here. Pose it by hand, or leave it.'
          }}
        </p>
        <div class="do">
          <CommandButton v-if="tried && tried.records.length > 0" command="take.take-mending" words primary />
          <CommandButton v-if="tried && tried.records.length > 0" command="take.adapt-mending" words />
          <CommandButton command="take.dismiss-snag" words />
        </div>
      </div>
    </li>
  </ol>
  <p v-if="listed.length > 60" class="quiet hint">… and {{ plural(listed.length - 60, 'more', 'more') }}.</p>
  <p v-if="dismissed > 0" class="quiet hint">
    {{ plural(dismissed, 'snag was', 'snags were') }} left as they are.
    <el-button text size="small" @click="bringBack">Tell them again</el-button>
  </p>
  <el-checkbox v-model="capture">Show the capture as a pale figure</el-checkbox>
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
  border-bottom: 1px solid var(--edge);
  display: flex;
  flex-direction: column;
}

.chosen {
  background: var(--amber-wash);
  border-radius: 7px;
}

.mending {
  display: flex;
  flex-direction: column;
  font-size: 13px;
  gap: 6px;
  padding: 0 8px 8px;
}

.mending p {
  margin: 0;
}

.do {
  display: flex;
  flex-wrap: wrap;
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
  padding: 5px 8px;
  text-align: left;
}

.go .quiet {
  font-size: 13px;
}

.go:hover strong {
  color: var(--amber);
}
</style>
