<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue';
import type { Judgement } from '@merry-shadow/core/judge/judge';
import type { TakeView } from '@merry-shadow/contracts/take';
import { clipFile } from '../api/client';
import { withEndAt } from '../play/in-out';
import StripCanvas from '../play/StripCanvas.vue';
import { AXIS, clipStripLayout, drawClipStrip, JUDGED_ROW, PICTURES, takeAt, WAVE } from './clip-strip';
import { useOpenClip } from './open-clip';

/** A clip's time: pictures, sound, what was judged, and takes, whose ends are dragged. */
const props = defineProps<{ pointed: Judgement | null }>();
const open = useOpenClip();
const { clip, facts, takes, chosenId, player, time, looks, wave, offered } = open;
const pictures = shallowRef<HTMLImageElement | null>(null);
const loaded = ref(0);
watch(
  () => [clip.value?.hash, clip.value?.state],
  ([hash, state]) => {
    if (!hash || state !== 'ready') return;
    const image = new Image();
    image.onload = () => loaded.value++;
    image.src = clipFile({ id: open.id, hash }, 'filmstrip');
    pictures.value = image;
  },
  { immediate: true },
);

const frames = computed(() => facts.value?.frames ?? 1);
/** A take whose end is dragged, as it would be. */
const held = ref<{ take: TakeView; end: 'from' | 'until'; from: number; until: number } | null>(null);
/** Whether the hand moves through time, and holds nothing. */
let seeking = false;
const shownTakes = computed(() =>
  takes.value.map((take) =>
    held.value?.take.id === take.id ? { ...take, fromFrame: held.value.from, untilFrame: held.value.until } : take,
  ),
);
const layout = computed(() => clipStripLayout({ wave: wave.value, looks: looks.value, takes: shownTakes.value }));

function draw(context: CanvasRenderingContext2D, token: (name: string) => string): void {
  drawClipStrip(context, token, time, layout.value, {
    pictures: pictures.value,
    aspect: (facts.value?.width ?? 16) / (facts.value?.height ?? 9),
    wave: wave.value,
    looks: looks.value,
    takes: shownTakes.value,
    offered: offered.value,
    chosen: chosenId.value,
    cuts: looks.value?.cuts ?? [],
    frames: frames.value,
    rate: facts.value?.rate ?? 30,
    frame: player.shown.value,
    pointed: props.pointed,
  });
}

function press(x: number, y: number): void {
  const found = takeAt(layout.value, takes.value, time, x, y);
  seeking = found === null;
  if (!found) return open.goTo(time.frameAt(x));
  chosenId.value = found.take.id;
  const { fromFrame: from, untilFrame: until } = found.take;
  if (found.end) held.value = { take: found.take, end: found.end, from, until };
}

function drag(frame: number): void {
  if (held.value) {
    const { take, end } = held.value;
    const [from, until] = withEndAt([take.fromFrame, take.untilFrame], end, frame, frames.value);
    held.value = { ...held.value, from, until };
    open.goTo(end === 'from' ? from : until - 1);
  } else if (seeking) open.goTo(frame);
}

async function release(): Promise<void> {
  if (!held.value) return;
  const { take, from, until } = held.value;
  await open.setRange(take, from, until);
  held.value = null;
}
</script>

<template>
  <div class="strip">
    <div class="titles" aria-hidden="true">
      <span :style="{ height: `${PICTURES}px`, marginTop: `${AXIS}px` }"></span>
      <span v-if="layout.wave !== null" :style="{ height: `${WAVE}px`, marginTop: '4px', lineHeight: `${WAVE}px` }"
        >sound</span
      >
      <div class="judged" :style="{ marginTop: '4px' }">
        <span v-for="row in layout.judged" :key="row.title" :style="{ height: `${JUDGED_ROW + 1}px` }">{{
          row.title
        }}</span>
      </div>
      <span class="takes">takes</span>
    </div>
    <StripCanvas
      :player="player"
      :time="time"
      :frames="frames"
      :height="layout.height"
      :range="[0, frames]"
      :held="held !== null"
      :draw="draw"
      :content="[layout, loaded, chosenId, offered, pointed]"
      hint="Drag the ends of a take. Wheel: nearer and farther. Shift and wheel: along."
      @press="press"
      @drag="drag"
      @release="release"
    />
  </div>
</template>

<style scoped>
.strip {
  display: grid;
  gap: 10px;
  grid-template-columns: 150px minmax(0, 1fr);
}

.titles {
  display: flex;
  flex-direction: column;
  font-size: 11px;
  line-height: 10px;
  text-align: right;
}

.judged {
  display: flex;
  flex-direction: column;
}

.takes {
  line-height: 16px;
  margin-top: 5px;
}
</style>
