// Shows the API's own description; everything it loads comes from here.
window.SwaggerUIBundle({ url: '/api/openapi.json', dom_id: '#api', validatorUrl: null, deepLinking: true });
