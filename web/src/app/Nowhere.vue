<template>
  <main class="nowhere">
    <h1>There is nothing at this address.</h1>
    <RouterLink class="button main" to="/">To the Bench</RouterLink>
  </main>
</template>

<style scoped>
.nowhere {
  display: grid;
  gap: 24px;
  align-content: start;
  justify-items: start;
  padding: 60px 28px;
}
</style>
