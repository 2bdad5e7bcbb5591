import { createRouter, createWebHistory } from 'vue-router';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/today' },
    { path: '/today', component: () => import('@/views/TodayView.vue'), meta: { title: 'Today' } },
    { path: '/banks', component: () => import('@/views/BanksView.vue'), meta: { title: 'Banks' } },
    {
      path: '/banks/new',
      component: () => import('@/views/NewBankView.vue'),
      meta: { title: 'Describe a bank' },
    },
    {
      path: '/banks/:id',
      component: () => import('@/views/BankView.vue'),
      props: true,
      meta: { title: 'Bank' },
      children: [
        { path: '', component: () => import('@/views/BankNow.vue') },
        {
          path: 'history',
          component: () => import('@/views/BankHistory.vue'),
          meta: { title: 'History of a bank' },
        },
        {
          path: 'charger',
          component: () => import('@/views/BankCharger.vue'),
          meta: { title: 'Charger of a bank' },
        },
        {
          path: 'batteries',
          component: () => import('@/views/BankBatteries.vue'),
          meta: { title: 'Batteries of a bank' },
        },
      ],
    },
    {
      path: '/banks/:id/edit',
      component: () => import('@/views/EditBankView.vue'),
      props: true,
      meta: { title: 'Put a bank right' },
    },
    {
      path: '/banks/:id/round',
      component: () => import('@/views/OpenRoundView.vue'),
      props: true,
      meta: { title: 'Take a round' },
    },
    {
      path: '/banks/:id/notebook',
      component: () => import('@/views/NotebookView.vue'),
      props: true,
      meta: { title: 'Notebook years' },
    },
    {
      path: '/banks/:id/equalize',
      component: () => import('@/views/EqualizeView.vue'),
      props: true,
      meta: { title: 'Equalize' },
    },
    {
      path: '/runs/:id',
      component: () => import('@/views/RunView.vue'),
      props: true,
      meta: { title: 'Run', bare: true },
    },
    {
      path: '/calculators',
      component: () => import('@/views/CalculatorsView.vue'),
      meta: { title: 'Calculators' },
    },
    // Places had other names before.
    { path: '/bench', redirect: (to) => ({ path: '/calculators', query: to.query }) },
    { path: '/shelf', redirect: '/library' },
    {
      path: '/rounds/:id',
      component: () => import('@/views/RoundView.vue'),
      props: true,
      meta: { title: 'Round', bare: true },
    },
    {
      path: '/visits/:id',
      component: () => import('@/views/VisitView.vue'),
      props: true,
      meta: { title: 'Visit', bare: true },
    },
    { path: '/pair', component: () => import('@/views/PairView.vue'), meta: { title: 'Pair', bare: true } },
    { path: '/library', component: () => import('@/views/LibraryView.vue'), meta: { title: 'Library' } },
    { path: '/settings', component: () => import('@/views/SettingsView.vue'), meta: { title: 'Settings' } },
    {
      path: '/:rest(.*)*',
      component: () => import('@/views/NowhereView.vue'),
      meta: { title: 'Nothing here' },
    },
  ],
});

router.afterEach((to) => {
  document.title = `${String(to.meta.title ?? '')} · Rainshadow`;
});
