<script setup lang="ts">
import {
  PhArrowRight,
  PhCheckCircle,
  PhHourglassMedium,
  PhInfo,
  PhScissors,
  PhSpeakerHigh,
  PhSpeakerSlash,
  PhTrash,
  PhWarningCircle,
} from '@phosphor-icons/vue';
import { ElMessageBox } from 'element-plus';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { levelOf } from '@merry-shadow/core/judge/judge';
import type { ClipView } from '@merry-shadow/contracts/clip';
import { addTake, clipFile, prepareAgain, removeClip } from '../api/client';
import { attempt } from '../shell/trouble';
import { bytes, plural, rate, seconds } from '../shell/words';
import { useProduction } from '../stores/production';

const props = defineProps<{ clip: ClipView }>();
const production = useProduction();
const router = useRouter();
/** The most takes that a card shows. */
const SHOWN = 2;
/** How bad the worst of what was judged is. */
const level = computed(() => {
  const { worst, severity } = props.clip.judged ?? { worst: null, severity: 0 };
  return worst === null ? 'minor' : levelOf(severity);
});
const takes = computed(() => production.takesOf(props.clip.id));

async function remove(): Promise<void> {
  const count = takes.value.length;
  const words =
    count > 0
      ? `“${props.clip.name}” and its ${plural(count, 'take')} will be removed from Merry Shadow, with all that was tracked. Your own file is not touched.`
      : `“${props.clip.name}” will be removed from Merry Shadow. Your own file is not touched.`;
  const sure = await ElMessageBox.confirm(words, 'Remove this clip?', {
    confirmButtonText: 'Remove',
    cancelButtonText: 'Keep',
    confirmButtonClass: 'el-button--danger',
  }).catch(() => null);
  if (sure) await attempt(() => removeClip(props.clip.id));
}

async function again(): Promise<void> {
  await attempt(() => prepareAgain(props.clip.id));
}

async function another(): Promise<void> {
  const { facts } = props.clip;
  if (!facts) return;
  await attempt(async () => {
    const id = await addTake(props.clip.id, { fromFrame: 0, untilFrame: facts.frames });
    await router.push({ name: 'take', params: { id } });
  });
}
</script>

<template>
  <article class="card" :class="clip.state">
    <div class="picture">
      <RouterLink
        v-if="clip.state === 'ready'"
        :to="{ name: 'clip', params: { id: clip.id } }"
        :aria-label="`Open ${clip.name}`"
        ><img :src="clipFile(clip, 'poster')" :alt="`A picture from ${clip.name}`"
      /></RouterLink>
      <div v-else-if="clip.state === 'failed'" class="state"><PhWarningCircle :size="34" weight="duotone" /></div>
      <div v-else class="state">
        <el-progress type="circle" :width="68" :stroke-width="5" :percentage="Math.round(clip.progress * 100)" />
      </div>
    </div>
    <div class="text">
      <div class="head">
        <RouterLink v-if="clip.facts" class="name" :to="{ name: 'clip', params: { id: clip.id } }" :title="clip.name">{{
          clip.name
        }}</RouterLink>
        <strong v-else :title="clip.name">{{ clip.name }}</strong>
        <el-button text class="bin" :aria-label="`Remove ${clip.name}`" @click="remove"
          ><PhTrash :size="17"
        /></el-button>
      </div>
      <template v-if="clip.state === 'failed'">
        <p class="problem" role="alert">{{ clip.problem }}</p>
        <p><el-button size="small" @click="again">Try again</el-button></p>
      </template>
      <p v-else-if="clip.state !== 'ready'" :class="clip.problem ? 'problem' : 'quiet'">
        {{ clip.problem ?? (clip.state === 'waiting' ? 'Waiting to be prepared' : 'Being prepared') }}
      </p>
      <p v-else-if="clip.facts" class="facts number">
        <span>{{ seconds(clip.facts.seconds) }}</span><span>{{ clip.facts.width }} × {{ clip.facts.height }} px</span
        ><span>{{ rate(clip.facts.rate) }}</span
        ><span>{{ bytes(clip.facts.bytes) }}</span>
        <span class="sound"
          ><PhSpeakerHigh v-if="clip.facts.hasSound" :size="15" /><PhSpeakerSlash v-else :size="15" />{{
            clip.facts.hasSound ? 'sound' : 'no sound'
          }}</span
        >
      </p>
      <p v-if="clip.facts?.missingFrames && clip.state === 'ready'" class="cut" role="note">
        <PhScissors :size="15" />Cut off: it announces {{ clip.facts.frames + clip.facts.missingFrames }} frames but
        holds {{ clip.facts.frames }}.
      </p>
      <p v-if="clip.state === 'ready'" class="judged" :class="level.replace(' ', '-')">
        <template v-if="!clip.judged"><PhHourglassMedium :size="15" />Being looked at</template>
        <template v-else-if="clip.judged.worst === null"
          ><PhCheckCircle :size="15" />Nothing stands in the way</template
        >
        <template v-else
          ><PhWarningCircle v-if="level === 'serious'" :size="15" weight="bold" /><PhInfo v-else :size="15" />
          <span :title="clip.judged.worst">{{ clip.judged.worst }}</span>
          <em v-if="clip.judged.count > 1" class="number">+{{ clip.judged.count - 1 }}</em></template
        >
      </p>
      <ul v-if="clip.state === 'ready'" class="takes">
        <li v-for="take in takes.slice(0, takes.length > SHOWN ? SHOWN - 1 : SHOWN)" :key="take.id">
          <RouterLink :to="{ name: 'take', params: { id: take.id } }"
            >{{ take.name }}<PhArrowRight :size="15"
          /></RouterLink>
        </li>
        <li v-if="takes.length > SHOWN">
          <RouterLink :to="{ name: 'clip', params: { id: clip.id } }"
            >and {{ takes.length - SHOWN + 1 }} more</RouterLink
          >
        </li>
        <li><el-button link class="plain" @click="another">Mark another take</el-button></li>
      </ul>
    </div>
  </article>
</template>

<style scoped>
.card {
  background: var(--sheet);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  box-shadow: var(--shadow);
  display: flex;
  flex-direction: column;
  overflow: hidden;
}

.picture {
  aspect-ratio: 16 / 9;
  background: var(--sheet-deep);
  flex: none;
  overflow: hidden;
  position: relative;
}

.picture img {
  background: var(--screen);
  display: block;
  height: 100%;
  object-fit: contain;
  width: 100%;
}

/* An upright picture would stretch what holds it. */
.picture > a {
  display: block;
  inset: 0;
  position: absolute;
}

.state {
  color: var(--berry);
  display: grid;
  height: 100%;
  place-items: center;
}

.text {
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding: 12px 14px;
}

.head {
  align-items: center;
  display: flex;
  gap: 8px;
}

.judged {
  align-items: center;
  color: var(--ink-soft);
  display: flex;
  font-size: 13.5px;
  gap: 6px;
}

.judged svg {
  flex: none;
}

.judged span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.judged em {
  font-style: normal;
}

.worth-mending {
  color: var(--amber);
}

.serious {
  color: var(--berry);
}

.head .name {
  color: var(--ink);
  flex: 1;
  font-weight: 650;
  overflow: hidden;
  text-decoration: none;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.head .name:hover {
  color: var(--amber);
}

.head strong {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.bin {
  color: var(--ink-soft);
  padding: 4px;
}

.bin:hover {
  color: var(--berry);
}

p {
  margin: 0;
}

.problem {
  color: var(--berry);
}

.cut {
  align-items: center;
  color: var(--berry);
  display: flex;
  font-size: 13.5px;
  gap: 6px;
}

.facts {
  color: var(--ink-soft);
  display: flex;
  flex-wrap: wrap;
  font-size: 13.5px;
  gap: 2px 14px;
}

.sound {
  align-items: center;
  display: inline-flex;
  gap: 4px;
}

ul {
  border-top: 1px solid var(--edge);
  display: flex;
  flex-direction: column;
  gap: 2px;
  list-style: none;
  margin: 4px 0 0;
  padding: 8px 0 0;
}

li a {
  align-items: center;
  color: var(--amber);
  display: inline-flex;
  font-weight: 600;
  gap: 6px;
  text-decoration: none;
}

li a:hover {
  text-decoration: underline;
}

.plain {
  color: var(--ink-soft);
  padding: 0;
}
</style>
