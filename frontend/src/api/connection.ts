/** Whether the server has stopped answering: known once a write waits for it. */
import { ref } from "vue";

export const away = ref(false);
