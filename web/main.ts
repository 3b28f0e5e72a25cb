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
createApp(App).use(createPinia()).use(router).mount('#app')
