<script setup lang="ts">
import { PhPlus } from '@phosphor-icons/vue';
import type { PerformerView } from '@merry-shadow/contracts/performer';
import { addPerformer, changePerformer, removePerformer } from '../api/client';
import NameInput from '../shell/NameInput.vue';
import NumberRow from '../shell/NumberRow.vue';
import { attempt } from '../shell/trouble';
import { plural } from '../shell/words';
import { useProduction } from '../stores/production';

/** Who performs in the production: what is said here once holds for all their takes. */
const open = defineModel<boolean>({ required: true });
const production = useProduction();
const COLOURS = ['#7a4a9e', '#2f7d6b', '#b4632a', '#38608f', '#9a3a55', '#6d6a2f'];

const takesOf = (performer: PerformerView): number =>
  production.takes.filter((take) => take.settings.performedBy === performer.id).length;
async function add(): Promise<void> {
  const count = production.performers.length;
  const colour = COLOURS[count % COLOURS.length];
  await attempt(() => addPerformer(production.id ?? '', { name: `Performer ${count + 1}`, colour, height: null }));
}
</script>

<template>
  <el-dialog v-model="open" title="Performers" width="min(620px, 92vw)">
    <p class="quiet hint">A height that is given here holds for all takes of that performer.</p>
    <ul>
      <li v-for="performer in production.performers" :key="performer.id">
        <el-color-picker
          :model-value="performer.colour"
          :aria-label="`Colour of ${performer.name}`"
          size="small"
          @change="(colour: string | null) => colour && attempt(() => changePerformer(performer.id, { colour }))"
        />
        <NameInput
          :name="performer.name"
          :label="`Name of ${performer.name}`"
          :most="60"
          @rename="(name) => attempt(() => changePerformer(performer.id, { name }))"
        />
        <NumberRow
          title="Height"
          :label="`Height of ${performer.name} in metres`"
          unit="m"
          :value="performer.height"
          :min="0.5"
          :max="2.6"
          :step="0.01"
          :precision="2"
          placeholder="unknown"
          @change="(height) => attempt(() => changePerformer(performer.id, { height }))"
        />
        <span class="quiet number">{{ plural(takesOf(performer), 'take') }}</span>
        <el-button size="small" text @click="attempt(() => removePerformer(performer.id))">Remove</el-button>
      </li>
    </ul>
    <p v-if="production.performers.length === 0" class="quiet">Nobody yet.</p>
    <el-button :icon="PhPlus" @click="add">Add a performer</el-button>
  </el-dialog>
</template>

<style scoped>
.hint {
  margin: 0 0 10px;
}

ul {
  display: flex;
  flex-direction: column;
  gap: 8px;
  list-style: none;
  margin: 0 0 14px;
  padding: 0;
}

li {
  align-items: center;
  display: grid;
  gap: 10px;
  grid-template-columns: auto minmax(100px, 1fr) auto auto auto;
}
</style>
