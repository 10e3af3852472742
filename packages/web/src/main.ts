import '@fontsource-variable/hanken-grotesk';
import '@fontsource-variable/spline-sans-mono';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './app.vue';
import { router } from './router.ts';
import './theme/tokens.css';
import './theme/controls.css';
import { vuetify } from './theme/vuetify.ts';

createApp(App).use(createPinia()).use(vuetify).use(router).mount('#app');
