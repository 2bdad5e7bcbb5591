<template>
  <h1>There is nothing at this address.</h1>
  <p style="margin-top: 8px"><RouterLink to="/banks">All banks</RouterLink></p>
</template>
