import { createRouter, createWebHistory } from "vue-router";

import { isOwnersOnly } from "@/owner/ownerApi";

import { useNotices } from "./notices";
import { useSession } from "./session";

/** Where the program begins: an owner who installed it from a link has no account. */
const home = () => (isOwnersOnly() ? "/owner" : "/jobs");

export const router = createRouter({
  history: createWebHistory("/"),
  routes: [
    { path: "/", redirect: home },
    { path: "/enter", name: "enter", component: () => import("@/jobs/EnterPage.vue") },
    { path: "/owner", name: "owner", component: () => import("@/owner/OwnerPage.vue") },
    { path: "/jobs", name: "jobs", component: () => import("@/jobs/JobsPage.vue") },
    {
      path: "/jobs/:jobId/:variantId/today",
      name: "today",
      props: true,
      component: () => import("@/stages/today/TodayPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/survey",
      name: "survey",
      props: true,
      component: () => import("@/stages/survey/SurveyPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/walk-round",
      name: "walk-round",
      props: true,
      component: () => import("@/stages/survey/WalkRoundPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/loads",
      name: "loads",
      props: true,
      component: () => import("@/stages/loads/LoadsPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/banks",
      name: "banks",
      props: true,
      component: () => import("@/stages/banks/BanksPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/scheme",
      name: "scheme",
      props: true,
      component: () => import("@/stages/scheme/SchemePage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/patterns",
      name: "patterns",
      props: true,
      component: () => import("@/stages/patterns/PatternsPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/compare",
      name: "compare",
      props: true,
      component: () => import("@/stages/compare/ComparePage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/drawing",
      name: "drawing",
      props: true,
      component: () => import("@/stages/scheme/DrawingPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/runs",
      name: "runs",
      props: true,
      component: () => import("@/stages/runs/RunsPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/day",
      name: "day",
      props: true,
      component: () => import("@/stages/day/DayPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/build",
      name: "build",
      props: true,
      component: () => import("@/stages/build/BuildPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/prove",
      name: "prove",
      props: true,
      component: () => import("@/stages/prove/ProvePage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/log",
      name: "log",
      props: true,
      component: () => import("@/stages/log/LogPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/handover",
      name: "handover",
      props: true,
      component: () => import("@/stages/handover/HandoverPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/rules",
      name: "rules",
      props: true,
      component: () => import("@/stages/findings/RuleBookPage.vue"),
    },
    {
      path: "/jobs/:jobId/:variantId/report",
      name: "report",
      props: true,
      component: () => import("@/stages/findings/ReportPage.vue"),
    },
    { path: "/join", name: "join", component: () => import("@/people/JoinPage.vue") },
    { path: "/account", name: "account", component: () => import("@/people/AccountPage.vue") },
    { path: "/people", name: "people", component: () => import("@/people/PeoplePage.vue") },
    { path: "/stock", name: "stock", component: () => import("@/workshop/StockPage.vue") },
    {
      path: "/:rest(.*)*",
      name: "not found",
      component: () => import("./NotFoundPage.vue"),
      props: (route) => ({ address: route.path }),
    },
  ],
});

router.beforeEach(async (to) => {
  // Opened by the secret of a link, without an account.
  if (to.name === "owner" || to.name === "join") return true;
  const store = useSession();
  if (!store.session) await store.load();
  const inside = store.session?.signed_in ?? false;
  if (!inside && to.name !== "enter") return { name: "enter" };
  if (inside && to.name === "enter") return { name: "jobs" };
  return true;
});

/** A page whose script does not come, because the server is away or has a newer program. */
router.onError(() => {
  useNotices().warned(
    "This page cannot be loaded: the server does not answer, or has a newer version of the " +
      "program. Try again; if that does not help, load the page anew.",
  );
});

/** Load every page's script while there is time: they are there when the server is not. */
export async function preloadPages() {
  for (const { components } of router.getRoutes()) {
    const page = components?.default;
    if (typeof page !== "function") continue;
    try {
      await (page as () => Promise<unknown>)();
    } catch {
      return; // the server is away: the next page that is opened tries again
    }
  }
}
