<script setup lang="ts">
/** The scheme on paper: ink on white, both sides of the circuit, and the drawing as a file. */
import { computed, onMounted, ref } from "vue";
import { useRouter } from "vue-router";
import { useTheme } from "vuetify";

import { useNotices } from "@/app/notices";
import { useOpenJob } from "@/documents/openJob";
import { useScheme } from "@/documents/schemeStore";
import { keepAs, standalone } from "@/drawing/exportSvg";
import SchemeDrawing from "@/drawing/SchemeDrawing.vue";

const props = defineProps<{ jobId: string; variantId: string }>();
const open = useOpenJob();
const schemes = useScheme();
const notices = useNotices();
const router = useRouter();
const theme = useTheme();
const drawings = ref<InstanceType<typeof SchemeDrawing>[]>([]);
const sheets = computed(() => {
  const scheme = schemes.scheme;
  if (!scheme) return [];
  return [
    { side: "pos", title: "Positive side", layout: scheme.positive },
    { side: "neg", title: "Negative side", layout: scheme.negative },
  ];
});
const positions = computed(() => new Map(schemes.scheme?.switches.map((s) => [s.id, s.position])));

onMounted(async () => {
  try {
    await open.open(props.jobId, props.variantId);
  } catch (error) {
    notices.failed(error);
    await router.push({ name: "jobs" });
  }
});

function keep(n: number) {
  const sheet = sheets.value[n];
  const drawing = drawings.value[n]?.frame;
  if (!sheet || !drawing) return;
  const name = `${open.job?.name} ${schemes.scheme?.name} ${sheet.title}`.replaceAll(" ", "-");
  const text = standalone(drawing, sheet.layout.width, sheet.layout.height);
  keepAs(`${name.toLowerCase()}.svg`, text, "image/svg+xml");
}

const print = () => window.print();
</script>

<template>
  <v-main>
    <v-theme-provider theme="paper" with-background class="paper" :data-screen="theme.global.name">
      <div class="screen-only">
        <v-btn :to="{ name: 'scheme', params: { jobId, variantId } }">Back to the scheme</v-btn>
        <v-btn color="secondary" variant="flat" @click="print">Print</v-btn>
        <v-btn v-for="(sheet, n) in sheets" :key="sheet.side" @click="keep(n)">
          {{ sheet.title }} as SVG
        </v-btn>
      </div>
      <article v-for="sheet in sheets" :key="sheet.side" class="sheet">
        <h1>{{ open.job?.name }}: {{ schemes.scheme?.name }}, {{ sheet.title.toLowerCase() }}</h1>
        <div class="picture" :style="{ aspectRatio: sheet.layout.width / sheet.layout.height }">
          <SchemeDrawing
            ref="drawings"
            :design="schemes.scheme!.design"
            :layout="sheet.layout"
            :point="null"
            :position-of="(id) => positions.get(id) ?? 'off'"
            :cable-names="schemes.scheme!.cable_names"
            :post-names="schemes.scheme!.post_names"
            :picked="null"
            :landing="null"
          />
        </div>
        <p>
          Disconnect the negative first; chargers off, solar covered. The local code, the edition of
          the standard in force, the makers' manuals and a licensed practitioner decide.
        </p>
      </article>
    </v-theme-provider>
  </v-main>
</template>

<style scoped>
.paper {
  min-height: 100dvh;
  padding: 12px 18px;
}
.screen-only {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.sheet {
  break-after: page;
  max-width: 1180px;
  margin: 0 auto;
}
h1 {
  font-size: 1.3rem;
  margin: 10px 0;
}
.picture {
  width: 100%;
  max-height: 172mm;
}
.picture :deep(.zoom) {
  display: none;
}
@media print {
  .screen-only {
    display: none;
  }
  .paper {
    padding: 0;
  }
}
</style>
