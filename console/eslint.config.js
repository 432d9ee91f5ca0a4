import vue from 'eslint-plugin-vue'
import { defineConfigWithVueTs, vueTsConfigs } from '@vue/eslint-config-typescript'
import prettier from 'eslint-config-prettier'

export default defineConfigWithVueTs(
  { ignores: ['node_modules', 'dist', 'src/api/schema.d.ts'] },
  vue.configs['flat/recommended'],
  vueTsConfigs.recommended,
  prettier,
  { rules: { 'vue/multi-word-component-names': 'off' } },
)
