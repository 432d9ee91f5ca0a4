import { createApp } from 'vue'
import 'element-plus/theme-chalk/dark/css-vars.css'
import 'element-plus/theme-chalk/el-message.css'
import 'element-plus/theme-chalk/el-message-box.css'
import 'element-plus/theme-chalk/base.css'
import './style.css'
import App from './App.vue'
import { router } from './router'
import './look'

createApp(App).use(router).mount('#app')
