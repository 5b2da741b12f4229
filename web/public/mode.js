// before the first paint, so that dark never flashes light; a file of its own, so that script-src 'self' is enough
(function () {
  var mode = localStorage.getItem('ordinator-mode') || 'auto';
  var dark = mode === 'dark' || (mode === 'auto' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.classList.toggle('dark', dark);
})();
