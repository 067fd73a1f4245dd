import { VueQueryPlugin } from '@tanstack/vue-query'
import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './app/App.vue'
import { watchAttendance } from './shell/attended'
import { sendAfterChoosing } from './shell/chosenThenEnter'
import { catchErrors } from './shell/errors'
import { loadFonts } from './shell/fonts'
import { returnFocus } from './shell/focusReturn'
import { queryClient } from './shell/queries'
import { router } from './app/router'
import { vuetify } from './shell/vuetify'
import './shell/style.css'

loadFonts()
watchAttendance(window)
returnFocus()
sendAfterChoosing()
if (navigator.maxTouchPoints > 0) void import('./shell/touchDrag')
const app = createApp(App)
catchErrors(app)
app.use(createPinia()).use(VueQueryPlugin, { queryClient }).use(vuetify).use(router).mount('#app')
