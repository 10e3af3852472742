<script setup lang="ts">
import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { sentenceOf } from '../api/index.ts';
import { useSession } from '../stores/index.ts';
import { StackField, TextField, UiButton } from '../ui/index.ts';

const route = useRoute();
const router = useRouter();
const session = useSession();
const email = ref('');
const password = ref('');
const failure = ref('');
const busy = ref(false);

async function submit(): Promise<void> {
  failure.value = '';
  busy.value = true;
  try {
    await session.signIn(email.value, password.value);
    const to = String(route.query.to ?? '/');
    // Only paths of our own: an address in the link must not lead elsewhere.
    await router.push(/^\/(?!\/)/.test(to) ? to : '/');
  } catch (error) {
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main class="page">
    <svg class="orbits" viewBox="-400 -250 800 500" aria-hidden="true">
      <g fill="none" stroke="var(--line)">
        <ellipse
          v-for="r in [90, 150, 220, 300]"
          :key="r"
          :rx="r * 1.25"
          :ry="r * 0.62"
          :stroke-opacity="1 - r / 400"
        />
      </g>
      <circle cx="-168" cy="-38" r="9" fill="var(--honey)" />
      <circle cx="236" cy="70" r="6" fill="var(--celadon)" />
      <circle cx="92" cy="-49" r="4" fill="var(--violet)" />
    </svg>
    <form class="card sign" @submit.prevent="submit">
      <div class="row">
        <img src="/mark.svg" width="30" height="30" alt="" />
        <h1>Tender Orbit</h1>
      </div>
      <p class="dim">The studio for product promos: stage, move, render, cut to music, deliver.</p>
      <StackField label="E-mail address">
        <TextField
          label="E-mail address"
          type="email"
          name="email"
          autocomplete="username"
          required
          autofocus
          :value="email"
          @typed="(text) => (email = text)"
        />
      </StackField>
      <StackField label="Password">
        <TextField
          label="Password"
          type="password"
          name="password"
          autocomplete="current-password"
          required
          :value="password"
          @typed="(text) => (password = text)"
        />
      </StackField>
      <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
      <UiButton type="submit" tone="primary" :disabled="busy">{{ busy ? 'Signing in...' : 'Sign in' }}</UiButton>
    </form>
  </main>
</template>

<style scoped>
.page {
  position: relative;
  display: grid;
  place-items: center;
  height: 100vh;
}
.orbits {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.sign {
  position: relative;
  display: grid;
  gap: 14px;
  width: 340px;
  padding: 28px;
}
h1 {
  font-size: 20px;
}
p {
  margin: 0;
}
label {
  display: grid;
  gap: 4px;
  color: var(--bone-dim);
}
.field {
  min-height: 34px;
}
.failure {
  color: var(--coral);
}
.primary {
  min-height: 36px;
  justify-content: center;
}
</style>
