<script setup lang="ts">
import { PhCheck, PhX } from '@phosphor-icons/vue';
import { computed } from 'vue';
import { partsSeen, WATCHED_PARTS, type WatchedPart } from '@merry-shadow/core/judge/parts-seen';
import { isSeen } from '@merry-shadow/core/observe/body';
import { partIsSeen } from '@merry-shadow/core/observe/unseen';
import type { Observations } from '@merry-shadow/core/observe/observations';

/** Which parts of the performer are seen now, and where a depth camera looks, of which it tells how far they are. */
const props = defineProps<{ observations: Observations | null; depth: Record<WatchedPart, boolean> | null }>();
const anybody = computed(() => props.observations !== null && isSeen(props.observations, 0));
const seen = computed(() =>
  partsSeen(
    anybody.value && props.observations ? props.observations.marks : null,
    props.observations ?? { width: 0, height: 0 },
  ),
);
const bodyParts = Object.entries(WATCHED_PARTS) as [WatchedPart, string][];
/** Each part with what is wrong with it; empty where all is well. */
const parts = computed(() => {
  const { hands, face } = props.observations ?? {};
  const closer = [
    ...(hands
      ? [
          { title: 'Left fingers', there: hands.left },
          { title: 'Right fingers', there: hands.right },
        ]
      : []),
    ...(face ? [{ title: 'Face', there: face }] : []),
  ];
  return [
    ...bodyParts.map(([part, title]) => ({
      title,
      lack: !seen.value[part] ? 'not seen' : props.depth && !props.depth[part] ? 'no depth' : '',
    })),
    ...closer.map(({ title, there }) => ({ title, lack: partIsSeen(there, 0) ? '' : 'not seen' })),
  ];
});
</script>

<template>
  <span role="status" data-testid="live-seen">{{ anybody ? 'Performer seen' : 'Nobody seen' }}</span>
  <ul v-if="anybody" aria-label="Parts of the performer">
    <li
      v-for="{ title, lack } in parts"
      :key="title"
      :class="{ ok: !lack }"
      :aria-label="`${title}: ${lack || 'seen'}`"
    >
      <component :is="lack ? PhX : PhCheck" :size="14" weight="bold" aria-hidden="true" />{{ title
      }}<em v-if="lack">{{ lack }}</em>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: flex;
  flex-wrap: wrap;
  min-width: 0;
  gap: 2px 12px;
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  align-items: center;
  color: var(--berry);
  display: flex;
  font-size: 13px;
  gap: 4px;
}

.ok {
  color: var(--sage);
}

em {
  font-style: normal;
  font-weight: 600;
}
</style>
