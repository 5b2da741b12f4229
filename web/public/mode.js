// before the first paint, so that dark never flashes light; a file of its own, so that script-src 'self' is enough
(function () {
  var system = matchMedia('(prefers-color-scheme: dark)');
  function apply() {
    var mode = localStorage.getItem('ordinator-mode') || 'auto';
    var dark = mode === 'dark' || (mode === 'auto' && system.matches);
    document.documentElement.classList.toggle('dark', dark);
  }
  apply();
  system.addEventListener('change', apply);
})();
