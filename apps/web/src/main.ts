import '@fontsource-variable/source-sans-3/index.css';
import '@fontsource-variable/fraunces/index.css';
import 'element-plus/dist/index.css';
import './theme/tokens.css';
import './theme/element.css';
import './theme/buttons.css';
import './theme/panel.css';
import './theme/room.css';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router';

createApp(App).use(createPinia()).use(router).mount('#app');
