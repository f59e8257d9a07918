<script setup lang="ts">
import { PhArrowRight, PhCopySimple, PhDotsSixVertical, PhStar, PhTrash } from '@phosphor-icons/vue';
import { computed } from 'vue';
import type { TakeView } from '@merry-shadow/contracts/take';
import { clipFile, duplicateTake, listTake } from '../api/client';
import IconButton from '../shell/IconButton.vue';
import { attempt } from '../shell/trouble';
import { seconds } from '../shell/words';
import { useProduction } from '../stores/production';
import RunLine from './RunLine.vue';

/** A take in the list: chosen for what is done to several, opened, ordered by its grip or the keys on it. */
const props = defineProps<{ take: TakeView; chosen: boolean; movable: boolean }>();
const emit = defineEmits<{ choose: [yes: boolean]; move: [by: -1 | 1] }>();
const production = useProduction();
const clip = computed(() => production.clip(props.take.clipId));
const performer = computed(() => production.performer(props.take.settings.performedBy));
const length = computed(() =>
  clip.value?.facts ? seconds((props.take.untilFrame - props.take.fromFrame) / clip.value.facts.rate) : '',
);
</script>

<template>
  <el-checkbox
    :model-value="chosen"
    :aria-label="`Choose ${take.name}`"
    @change="(yes: unknown) => emit('choose', yes === true)"
  />
  <el-button
    v-if="movable"
    text
    size="small"
    class="grip"
    :aria-label="`Move ${take.name}: arrow keys up and down`"
    title="Drag, or arrow keys"
    @keydown.up.prevent.stop="emit('move', -1)"
    @keydown.down.prevent.stop="emit('move', 1)"
    ><PhDotsSixVertical :size="17"
  /></el-button>
  <span v-else></span>
  <img v-if="clip" :src="clipFile(clip, 'poster')" alt="" loading="lazy" />
  <div class="who">
    <RouterLink :to="{ name: 'take', params: { id: take.id } }">{{ take.name }}<PhArrowRight :size="16" /></RouterLink>
    <span class="quiet number"
      ><RouterLink v-if="clip" class="clip" :to="{ name: 'clip', params: { id: clip.id } }">{{ clip.name }}</RouterLink>
      · frames {{ take.fromFrame }} to {{ take.untilFrame - 1 }} · {{ length
      }}<template v-if="performer">
        · <i class="dot" :style="{ background: performer.colour }"></i>{{ performer.name }}</template
      ></span
    >
  </div>
  <RunLine :take="take" class="run" />
  <div class="tools">
    <IconButton
      :icon="PhStar"
      :label="`The best of its clip: ${take.name}`"
      title="The best of its clip"
      :pressed="take.best"
      @click="attempt(() => listTake(take.id, { best: !take.best }))"
    />
    <IconButton
      :icon="PhCopySimple"
      :label="`Copy ${take.name}`"
      title="Copy"
      @click="attempt(() => duplicateTake(take.id))"
    />
    <IconButton
      :icon="PhTrash"
      :label="`Throw ${take.name} away`"
      title="Throw away"
      @click="attempt(() => listTake(take.id, { removed: true }))"
    />
  </div>
</template>

<style scoped>
img {
  aspect-ratio: 16 / 9;
  background: var(--screen);
  border-radius: 6px;
  object-fit: cover;
  width: 104px;
}

.grip {
  cursor: grab;
  padding: 4px 2px;
}

.who {
  display: flex;
  flex-direction: column;
  min-width: 0;
}

.who a {
  align-items: center;
  color: var(--ink);
  display: inline-flex;
  font-size: 16px;
  font-weight: 650;
  gap: 7px;
  text-decoration: none;
}

.who .clip {
  color: inherit;
  display: inline;
  font-size: inherit;
  font-weight: inherit;
}

.who a:hover {
  color: var(--amber);
}

.dot {
  border-radius: 50%;
  display: inline-block;
  height: 9px;
  margin-right: 4px;
  width: 9px;
}

.tools {
  display: flex;
}
</style>
