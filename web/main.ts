import '@fontsource-variable/figtree'
import '@fontsource-variable/source-serif-4'
import 'ant-design-vue/dist/reset.css'
import './styles/tokens.css'
import './styles/base.css'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { giveStylesTheNonce } from './nonce'
import { router } from './router'

giveStylesTheNonce()
const app = createApp(App).use(createPinia()).use(router)
// Loading the program and drawing the first page are a task each, so that neither holds the page up for long.
setTimeout(() => app.mount('#app'))
