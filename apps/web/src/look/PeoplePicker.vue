<script setup lang="ts">
import { onMounted, ref } from 'vue';
import type { SeenPeople, SeenPerson } from '@merry-shadow/contracts/clip';

/** Lies over the picture: a frame round everybody who was found; a click chooses whom to follow. */
const props = defineProps<{ seen: SeenPeople; scale: number; video: HTMLVideoElement | undefined; again: boolean }>();
const emit = defineEmits<{ pick: [person: SeenPerson]; each: []; close: [] }>();
const first = ref<HTMLButtonElement[]>();
const small = ref<HTMLCanvasElement[]>();
const SMALL = 64;
onMounted(() => {
  first.value?.[0]?.focus();
  const { video } = props;
  if (!video) return;
  props.seen.people.forEach(({ left, top, size }, i) => {
    const ratio = video.videoWidth / props.seen.width;
    small.value?.[i]
      ?.getContext('2d')
      ?.drawImage(video, left * ratio, top * ratio, size * ratio, size * ratio, 0, 0, SMALL, SMALL);
  });
});

function place(person: SeenPerson): Record<string, string> {
  const { left, top, size } = person;
  const [x0, y0] = [Math.max(0, left + size * 0.2), Math.max(0, top)];
  const [x1, y1] = [Math.min(props.seen.width, left + size * 0.8), Math.min(props.seen.height, top + size)];
  return {
    left: `${x0 * props.scale}px`,
    top: `${y0 * props.scale}px`,
    width: `${(x1 - x0) * props.scale}px`,
    height: `${(y1 - y0) * props.scale}px`,
  };
}
</script>

<template>
  <div class="veil" role="group" aria-label="Whom to follow">
    <button
      v-for="(person, i) in seen.people"
      :key="i"
      ref="first"
      type="button"
      class="person"
      :style="place(person)"
      :aria-label="`Person ${i + 1}, ${Math.round(person.score * 100)} % sure`"
      @click="emit('pick', person)"
    >
      <span>{{ i + 1 }}</span>
    </button>
    <div class="faces">
      <button
        v-for="(person, i) in seen.people"
        :key="i"
        type="button"
        :aria-label="`Follow person ${i + 1}`"
        @click="emit('pick', person)"
      >
        <canvas ref="small" :width="SMALL" :height="SMALL"></canvas><span>{{ i + 1 }}</span>
      </button>
    </div>
    <p role="status">
      {{
        seen.people.length === 0
          ? 'Nobody was found on this frame. Try another one.'
          : again
            ? 'Click who the performer is here.'
            : 'Click the performer to follow.'
      }}
      <el-button v-if="!again && seen.people.length > 1" link type="primary" @click="emit('each')"
        >A take for each of the {{ seen.people.length }}</el-button
      >
      <el-button link type="primary" @click="emit('close')">Leave as it is</el-button>
    </p>
  </div>
</template>

<style scoped>
.veil {
  background: rgb(20 14 10 / 35%);
  inset: 0;
  position: absolute;
}

.person {
  background: rgb(255 240 210 / 12%);
  border: 2px dashed #ffd58a;
  border-radius: 8px;
  cursor: pointer;
  padding: 0;
  position: absolute;
}

.person:hover,
.person:focus-visible {
  background: rgb(255 213 138 / 34%);
  border-style: solid;
  outline: none;
}

.person span {
  background: #ffd58a;
  border-radius: 0 0 8px 0;
  color: #2a211d;
  font: 700 14px var(--font);
  left: 0;
  padding: 1px 8px;
  position: absolute;
  top: 0;
}

.faces {
  display: flex;
  gap: 6px;
  left: 8px;
  position: absolute;
  top: 8px;
}

.faces button {
  background: var(--sheet);
  border: 0;
  border-radius: 6px;
  cursor: pointer;
  display: grid;
  padding: 2px;
  position: relative;
}

.faces canvas {
  border-radius: 5px;
}

.faces span {
  background: #ffd58a;
  border-radius: 5px;
  bottom: 4px;
  color: #2a211d;
  font: 700 12px var(--font);
  padding: 0 5px;
  position: absolute;
  right: 4px;
}

p {
  background: var(--sheet);
  border-radius: 999px;
  bottom: 10px;
  left: 50%;
  margin: 0;
  padding: 5px 8px 5px 14px;
  position: absolute;
  transform: translateX(-50%);
  white-space: nowrap;
}

p .el-button {
  color: var(--amber);
}
</style>
