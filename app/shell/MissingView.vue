<template>
  <div class="page">
    <div class="message">
      <h1>There is nothing here</h1>
      <p class="quiet">The address may be mistyped, or what it led to is gone.</p>
      <RouterLink class="btn" to="/">To the projects</RouterLink>
    </div>
  </div>
</template>

<style scoped>
.page {
  height: 100%;
  display: grid;
}
.message {
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 12px;
}
h1 {
  font-size: 18px;
}
a.btn {
  text-decoration: none;
}
</style>
