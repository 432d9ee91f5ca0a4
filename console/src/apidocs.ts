import SwaggerUI from 'swagger-ui-dist/swagger-ui-es-bundle.js'
import 'swagger-ui-dist/swagger-ui.css'
import './apidocs.css'

// Whoever has logged in to the console is known here too: requests that are tried carry the session's cookie.
SwaggerUI({
  domNode: document.getElementById('api'),
  url: '/api/v1/openapi.json',
  deepLinking: true,
  docExpansion: 'none',
  defaultModelsExpandDepth: 0,
  filter: true,
  tryItOutEnabled: true,
  validatorUrl: null,
})
