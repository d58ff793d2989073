/** Whether the server has stopped answering: known once a write waits, or a kept answer is shown. */
import { ref } from "vue";

export const away = ref(false);
