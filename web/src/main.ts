import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './app/App.vue'
import { watchAttendance } from './frame/attended'
import { sendAfterChoosing } from './frame/chosenThenEnter'
import { catchErrors } from './frame/errors'
import { loadFonts } from './frame/fonts'
import { returnFocus } from './frame/focusReturn'
import { queryClient } from './frame/queries'
import { router } from './app/router'
import { vuetify } from './frame/vuetify'
import './frame/style.css'

loadFonts()
watchAttendance(window)
returnFocus()
sendAfterChoosing()
if (navigator.maxTouchPoints > 0) void import('./frame/touchDrag')
const app = createApp(App)
catchErrors(app)
app.use(createPinia()).use(VueQueryPlugin, { queryClient }).use(vuetify).use(router).mount('#app')
