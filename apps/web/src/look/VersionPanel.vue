<script setup lang="ts">
import { PhArrowCounterClockwise, PhBookmarkSimple, PhEye, PhPencilSimple, PhX } from '@phosphor-icons/vue';
import { ElMessageBox } from 'element-plus';
import { computed, ref, shallowRef, watch } from 'vue';
import { changeBetween } from '@merry-shadow/core/edits/work';
import type { RevisionView } from '@merry-shadow/contracts/take';
import { workOf, type TakeState } from '@merry-shadow/contracts/take-work';
import { fetchRevision, fetchRevisions, nameRevision } from '../api/client';
import IconButton from '../shell/IconButton.vue';
import { attempt } from '../shell/trouble';
import { plural } from '../shell/words';
import { useProduction } from '../stores/production';
import { useOpenTake } from '../take/open-take';

/** States that the work on this take had: name one as a version, look at one, bring one back. */
const { id, work, looked } = useOpenTake();
const production = useProduction();
const list = shallowRef<RevisionView[]>([]);
const onlyVersions = ref(false);
const shown = computed(() => list.value.filter(({ version }) => !onlyVersions.value || version !== null));

const reload = (): Promise<boolean> => attempt(async () => (list.value = await fetchRevisions(id)));
watch(() => production.take(id)?.revision, reload, { immediate: true });

const nameOf = ({ version, label }: RevisionView): string => version ?? (label || 'changed');

async function name(revision: RevisionView): Promise<void> {
  const answer = await ElMessageBox.prompt('What shall this version be called?', 'Name a version', {
    inputValue: revision.version ?? '',
    inputValidator: (value) =>
      value.trim().length > 0 && value.length <= 80 ? true : 'A name has 1 to 80 characters.',
    confirmButtonText: 'Keep',
    cancelButtonText: 'Cancel',
  }).catch(() => null);
  if (answer && (await attempt(() => nameRevision(id, revision.revision, answer.value.trim())))) await reload();
}

async function unname({ revision }: RevisionView): Promise<void> {
  if (await attempt(() => nameRevision(id, revision, null))) await reload();
}

async function look(wanted: RevisionView): Promise<void> {
  const { revision } = wanted;
  if (looked.value?.revision === revision) return void (looked.value = null);
  await attempt(async () => {
    looked.value = { revision, title: nameOf(wanted), state: await fetchRevision(id, revision) };
  });
}

async function bringBack(wanted: RevisionView): Promise<void> {
  await attempt(async () => {
    work.change(`bring back “${nameOf(wanted)}”`, await fetchRevision(id, wanted.revision));
    looked.value = null;
  });
}

/** What is different now from a version that is looked at. */
function differences(state: TakeState): string {
  if (!work.state.value) return '';
  const { fields, records, foundPlants } = changeBetween(workOf(state), workOf(work.state.value));
  const [edits, settings] = [Object.keys(records).length + (foundPlants ? 1 : 0), Object.keys(fields).length];
  if (edits + settings === 0) return 'Nothing is different now.';
  return `Different now: ${[edits > 0 && plural(edits, 'edit'), settings > 0 && plural(settings, 'setting')].filter(Boolean).join(' and ')}.`;
}

const time = new Intl.DateTimeFormat(undefined, { dateStyle: 'short', timeStyle: 'short' });
</script>

<template>
  <p class="hint quiet">
    Every change is kept. A version is a state with a name; looking at one shows its motion, Z goes back and forth
    between it and now, bringing it back can be undone.
  </p>
  <el-checkbox v-model="onlyVersions" size="small">Named versions only</el-checkbox>
  <p v-if="shown.length === 0" class="hint quiet">
    {{ onlyVersions ? 'No version has a name yet.' : 'Nothing was changed yet.' }}
  </p>
  <ol>
    <li v-for="revision in shown" :key="revision.revision" :class="{ on: looked?.revision === revision.revision }">
      <div class="what">
        <strong v-if="revision.version"><PhBookmarkSimple :size="14" weight="fill" />{{ revision.version }}</strong>
        <span>{{ revision.label || 'changed' }}</span>
        <span class="quiet number">{{ time.format(new Date(revision.at)) }}</span>
      </div>
      <div class="do">
        <IconButton
          :icon="PhEye"
          :label="`Look at ${nameOf(revision)}`"
          :pressed="looked?.revision === revision.revision"
          title="Look at it"
          @click="look(revision)"
        />
        <IconButton
          :icon="PhArrowCounterClockwise"
          :label="`Bring back ${nameOf(revision)}`"
          title="Bring it back"
          @click="bringBack(revision)"
        />
        <IconButton
          :icon="PhPencilSimple"
          :label="`Name ${nameOf(revision)}`"
          title="Name it"
          @click="name(revision)"
        />
        <IconButton
          v-if="revision.version"
          :icon="PhX"
          :label="`Take the name ${revision.version} away`"
          title="Take its name away"
          @click="unname(revision)"
        />
      </div>
      <p v-if="looked?.revision === revision.revision" class="hint">{{ differences(looked.state) }}</p>
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  align-items: center;
  border-bottom: 1px solid var(--edge);
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  padding: 4px 2px;
}

li.on {
  background: var(--amber-wash);
}

.what {
  display: flex;
  flex-direction: column;
  font-size: 14px;
  line-height: 1.25;
}

.what strong {
  align-items: center;
  display: flex;
  gap: 5px;
}

.what .quiet {
  font-size: 13px;
}

.do {
  display: flex;
}

li .hint {
  grid-column: 1 / -1;
}
</style>
