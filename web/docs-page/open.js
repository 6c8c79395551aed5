window.SwaggerUIBundle({ url: '/api/openapi.json', dom_id: '#api', supportedSubmitMethods: [] });
