<script setup lang="ts">
import { BODY_PARTS, type BodyPart } from '@merry-shadow/core/motion/body-parts';

/** Parts of the body that an edit is meant for; null is all of it. */
const props = defineProps<{ parts: readonly BodyPart[] | null }>();
const emit = defineEmits<{ change: [parts: BodyPart[] | null] }>();
const TITLES: Record<BodyPart, string> = {
  root: 'root',
  trunk: 'trunk',
  head: 'head',
  leftArm: 'left arm',
  rightArm: 'right arm',
  leftHand: 'left hand',
  rightHand: 'right hand',
  leftLeg: 'left leg',
  rightLeg: 'right leg',
  face: 'face',
};
const isOn = (part: BodyPart): boolean => props.parts === null || props.parts.includes(part);

function toggle(part: BodyPart): void {
  const now = props.parts ?? BODY_PARTS;
  const next = now.includes(part) ? now.filter((item) => item !== part) : [...now, part];
  emit('change', next.length === BODY_PARTS.length || next.length === 0 ? null : next);
}
</script>

<template>
  <div class="parts" role="group" aria-label="Parts of the body">
    <el-check-tag
      v-for="part in BODY_PARTS"
      :key="part"
      role="button"
      tabindex="0"
      :aria-pressed="isOn(part)"
      :checked="isOn(part)"
      @change="toggle(part)"
      @keydown.enter.space.prevent="toggle(part)"
      >{{ TITLES[part] }}</el-check-tag
    >
  </div>
</template>

<style scoped>
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}

.parts .el-check-tag {
  background: none;
  border: 1px solid var(--edge);
  border-radius: 999px;
  color: var(--ink-faint);
  font-size: 12px;
  font-weight: 400;
  line-height: 1.3;
  padding: 1px 8px;
}

.parts .is-checked {
  background: var(--sheet);
  border-color: var(--ink-soft);
  color: var(--ink);
}
</style>
