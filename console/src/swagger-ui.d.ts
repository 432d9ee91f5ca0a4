declare module 'swagger-ui-dist/swagger-ui-es-bundle.js' {
  const SwaggerUI: (options: Record<string, unknown>) => void
  export default SwaggerUI
}
