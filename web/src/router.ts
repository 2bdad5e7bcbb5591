import { createRouter, createWebHistory } from 'vue-router';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/today' },
    { path: '/today', component: () => import('@/features/today/TodayView.vue'), meta: { title: 'Today' } },
    { path: '/banks', component: () => import('@/features/banks/BanksView.vue'), meta: { title: 'Banks' } },
    {
      path: '/banks/new',
      component: () => import('@/features/bank/NewBankView.vue'),
      meta: { title: 'Describe a bank' },
    },
    {
      path: '/banks/:id',
      component: () => import('@/features/bank/BankView.vue'),
      props: true,
      meta: { title: 'Bank' },
      children: [
        { path: '', component: () => import('@/features/bank/BankNow.vue') },
        {
          path: 'diagnosis',
          component: () => import('@/features/diagnosis/BankDiagnosis.vue'),
          meta: { title: 'Diagnosis of a bank' },
        },
        {
          path: 'joints',
          component: () => import('@/features/joints/BankJoints.vue'),
          meta: { title: 'Joints of a bank' },
        },
        {
          path: 'plan',
          component: () => import('@/features/plan/PlanView.vue'),
          meta: { title: 'Plan of a bank' },
        },
        {
          path: 'history',
          component: () => import('@/features/bank/BankHistory.vue'),
          meta: { title: 'History of a bank' },
        },
        {
          path: 'equipment',
          component: () => import('@/features/bank/BankEquipment.vue'),
          meta: { title: 'Equipment of a bank' },
        },
        {
          path: 'batteries',
          component: () => import('@/features/bank/BankBatteries.vue'),
          meta: { title: 'Batteries of a bank' },
        },
      ],
    },
    {
      path: '/banks/:id/edit',
      component: () => import('@/features/bank/EditBankView.vue'),
      props: true,
      meta: { title: 'Put a bank right' },
    },
    {
      path: '/banks/:id/round',
      component: () => import('@/features/round/OpenRoundView.vue'),
      props: true,
      meta: { title: 'Take a round' },
    },
    {
      path: '/banks/:id/notebook',
      component: () => import('@/features/notebook/NotebookView.vue'),
      props: true,
      meta: { title: 'Notebook years' },
    },
    {
      path: '/banks/:id/equalize',
      component: () => import('@/features/equalize/EqualizeView.vue'),
      props: true,
      meta: { title: 'Equalize' },
    },
    {
      path: '/runs/:id',
      component: () => import('@/features/equalize/RunView.vue'),
      props: true,
      meta: { title: 'Run', bare: true },
    },
    {
      path: '/calculators',
      component: () => import('@/features/calculators/CalculatorsView.vue'),
      meta: { title: 'Calculators' },
    },
    // Places had other names before.
    { path: '/bench', redirect: (to) => ({ path: '/calculators', query: to.query }) },
    { path: '/shelf', redirect: '/library' },
    { path: '/banks/:id/charger', redirect: (to) => `/banks/${String(to.params.id)}/equipment` },
    {
      path: '/rounds/:id',
      component: () => import('@/features/round/RoundView.vue'),
      props: true,
      meta: { title: 'Round', bare: true },
    },
    {
      path: '/visits/:id',
      component: () => import('@/features/visit/VisitView.vue'),
      props: true,
      meta: { title: 'Visit', bare: true },
    },
    {
      path: '/visits/:id/discharge',
      component: () => import('@/features/visit/tests/DischargeView.vue'),
      props: true,
      meta: { title: 'Timed discharge', bare: true },
    },
    {
      path: '/pair',
      component: () => import('@/features/settings/PairView.vue'),
      meta: { title: 'Pair', bare: true },
    },
    {
      path: '/library',
      component: () => import('@/features/library/LibraryView.vue'),
      meta: { title: 'Library' },
    },
    {
      path: '/settings',
      component: () => import('@/features/settings/SettingsView.vue'),
      meta: { title: 'Settings' },
    },
    {
      path: '/:rest(.*)*',
      component: () => import('@/features/banks/NowhereView.vue'),
      meta: { title: 'Nothing here' },
    },
  ],
});

router.afterEach((to) => {
  document.title = `${String(to.meta.title ?? '')} · Rainshadow`;
});
