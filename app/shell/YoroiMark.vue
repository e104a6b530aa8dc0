<template>
  <svg
    width="20"
    height="24"
    viewBox="0 0 22 26"
    fill="none"
    stroke="currentColor"
    stroke-width="2.4"
    aria-hidden="true"
  >
    <rect x="2" y="2" width="18" height="22" rx="1.5" />
    <path d="M2 16.5H20" stroke="var(--plum)" />
    <circle cx="8" cy="16.5" r="3" fill="var(--panel)" stroke="var(--plum)" />
  </svg>
</template>
