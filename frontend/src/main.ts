import "@fontsource-variable/atkinson-hyperlegible-next";
import "vuetify/styles";
import "./app/base.css";
import "./shared/asked.css";
import "./shared/blocks.css";

import { createPinia } from "pinia";
import { createApp } from "vue";

import App from "./app/App.vue";
import { router } from "./app/router";
import { vuetify } from "./app/theme";
import { startWorker } from "./aboard/worker";

createApp(App).use(createPinia()).use(router).use(vuetify).mount("#app");
void startWorker();
