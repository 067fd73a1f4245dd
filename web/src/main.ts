import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { loadFonts } from './frame/fonts'
import { router } from './frame/router'
import { vuetify } from './frame/vuetify'
import './frame/style.css'

loadFonts()
createApp(App).use(createPinia()).use(vuetify).use(router).mount('#app')
