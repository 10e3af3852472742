<script setup lang="ts">
import { getCurrentInstance, nextTick, onBeforeUnmount, onMounted, ref } from 'vue';

/**
 * The tooltip of what it stands in. A station has hundreds and a person sees few, so that each is made when the pointer or
 * the focus first comes to it.
 */
const { text } = defineProps<{ text: string }>();
const wanted = ref(false);
const instance = getCurrentInstance();
const listening = new AbortController();

onMounted(() => {
  let owner = (instance?.proxy?.$el as Node).parentElement;
  // What the library wraps round a button's content is no owner, as it is none to the library's tooltip.
  while (owner?.hasAttribute('data-no-activator')) owner = owner.parentElement;
  const make = async (event: Event): Promise<void> => {
    listening.abort();
    wanted.value = true;
    // It listens two ticks after it is made, and did not hear what made it.
    await nextTick();
    await nextTick();
    owner?.dispatchEvent(event.type === 'focusin' ? new FocusEvent('focus') : new MouseEvent('mouseenter'));
  };
  for (const kind of ['mouseenter', 'focusin']) owner?.addEventListener(kind, make, { signal: listening.signal });
});
onBeforeUnmount(() => listening.abort());
</script>

<template>
  <v-tooltip v-if="wanted" activator="parent" :text="text" />
</template>
