import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './app/App.vue'
import { loadFonts } from './frame/fonts'
import { returnFocus } from './frame/focusReturn'
import { queryClient } from './frame/queries'
import { router } from './app/router'
import { vuetify } from './frame/vuetify'
import './frame/style.css'

loadFonts()
returnFocus()
createApp(App).use(createPinia()).use(VueQueryPlugin, { queryClient }).use(vuetify).use(router).mount('#app')
