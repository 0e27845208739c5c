/* What lives only in the browser: the keyboard (the keys are listed in web/kit/keys.py), the phone's tabs, tapping along with a panel. Everything works without it but these. */
(() => {
  const typing = (target) => target.closest("input:not([type=checkbox], [type=radio]), textarea, select") !== null;
  const visible = (element) => element.closest("details:not([open]) > :not(summary)") === null;

  const keyed = (key) => [...document.querySelectorAll(`[data-key="${CSS.escape(key)}"]`)].filter(visible);
  /* A figure typed where a reading is asked begins it, unless that figure is the number of an answer. */
  const answerable = (key) => keyed(key).some((e) => !e.disabled);

  function act(key) {
    const all = keyed(key);
    const wanted = all.find((e) => !e.disabled);
    if (!wanted) return locked(all.find((e) => e.dataset.locked));
    if (wanted.matches("input, textarea")) wanted.focus();
    else wanted.click();
    return true;
  }

  /* What cannot be answered yet says so to a key as well, and leads to what comes first. */
  function locked(element) {
    if (!element) return false;
    trouble().replaceChildren(Object.assign(document.createElement("p"), { textContent: element.dataset.locked }));
    document.querySelector("[data-reach] button")?.focus();
    return true;
  }

  const SILENCE_MS = 1500;

  document.addEventListener("alpine:init", () => {
    Alpine.data("keys", () => ({
      open: false,
      going: false,
      get closed() { return !this.open; },
      close() { this.open = false; },
      press(event) {
        if (event.repeat) return;
        if (event.ctrlKey && event.key === "Enter" && typing(event.target) && act("k")) { event.preventDefault(); return; }
        if (event.ctrlKey || event.metaKey || event.altKey) return;
        if (event.key === "Escape") { this.open = false; if (typing(event.target)) event.target.blur(); return; }
        if (typing(event.target)) return;
        const key = event.key.toLowerCase();
        if (this.going) { this.going = false; this.go(key, event); return; }
        if (key === "?") { this.open = !this.open; event.preventDefault(); return; }
        if (key === "g") { this.going = true; return; }
        const frame = document.getElementById("job");
        if (frame && key === "n") { this.visit(frame.dataset.next, event); return; }
        if (frame && key === "s") { this.visit(frame.dataset.safe, event); return; }
        if (/^[\d.,-]$/.test(key) && document.querySelector('[data-key="m"][inputmode]') && !answerable(key)) { act("m"); return; }
        if (act(key)) event.preventDefault();
      },
      go(key, event) {
        const link = document.querySelector(`[data-station="${CSS.escape(key)}"]`);
        if (link) { event.preventDefault(); link.click(); }
      },
      visit(address, event) {
        event.preventDefault();
        const link = [...document.querySelectorAll("#job a")].find((a) => a.getAttribute("href") === address);
        if (link) link.click(); else window.location.assign(address);
      },
    }));

    Alpine.data("job", () => ({
      init() { show(this.$root, new URLSearchParams(location.search).get("tab") || sessionStorage.getItem("tab") || "next"); },
      tab(event) { show(this.$root, event.currentTarget.dataset.tab); },
    }));

    /* Taps in time: a press counts when the finger comes down, a key when it is struck; rounds are parted by a slash. */
    Alpine.data("rhythm", () => ({
      off: false,
      rounds: [[]],
      began: 0,
      silence: 0,
      tap(event) {
        if (event.type === "click" && event.detail !== 0) return;
        const round = this.rounds.at(-1);
        const now = event.timeStamp;
        if (round.length === 0) this.began = now;
        round.push(`${event.currentTarget.dataset.lamp}:${Math.round(now - this.began)}`);
        clearTimeout(this.silence);
        this.silence = setTimeout(() => this.hear(), SILENCE_MS);
      },
      another() { this.hear(); if (this.rounds.at(-1).length) this.rounds.push([]); },
      clear() { this.rounds = [[]]; this.heard().replaceChildren(); },
      heard() { return this.$root.querySelector("[data-heard]"); },
      hear() {
        clearTimeout(this.silence);
        const rhythm = this.rounds.filter((round) => round.length).map((round) => round.join(" ")).join("/");
        const address = this.$root.querySelector("[data-rhythm]").dataset.rhythm;
        if (rhythm) htmx.ajax("GET", `${address}&rhythm=${encodeURIComponent(rhythm)}`, { target: this.heard(), swap: "innerHTML" });
      },
      take(event) {
        const counts = event.currentTarget.dataset.counts.split(" ");
        const lines = [...this.$root.querySelectorAll("tr")].map((row) => [...row.querySelectorAll("input")]);
        const free = lines.find((fields) => fields.length && fields.every((field) => !field.value));
        free?.forEach((field, n) => { field.value = counts[n]; });
        this.clear();
      },
    }));
  });

  function show(frame, tab) {
    frame.dataset.tab = tab;
    sessionStorage.setItem("tab", tab);
    const here = frame.querySelector("[data-strip] [data-here]");
    if (here && tab === "next") here.parentElement.scrollLeft = here.offsetLeft - here.parentElement.offsetLeft - (here.parentElement.clientWidth - here.offsetWidth) / 2;
    frame.querySelectorAll("[role=tab]").forEach((b) => b.setAttribute("aria-selected", String(b.dataset.tab === tab)));
  }

  /* After a swap the focus is where the work goes on: at a question, at what was refused, at the new step; on the phone at the tab that is open. */
  const places = ["[role=alertdialog] .btn-first", "label:has(+ [data-field-error]) input", "#main [role=alert]", "[data-focus]", "[aria-label^=Entries]"];
  const onwards = () => {
    for (const place of places) {
      if (document.activeElement.closest("#main, input, textarea, select")) return;
      document.querySelector(place)?.focus({ preventScroll: true });
    }
  };
  document.addEventListener("htmx:afterSettle", () => {
    onwards();
    const frame = document.getElementById("job");
    if (frame) show(frame, sessionStorage.getItem("tab") || "next");
  });
  /* The drawing's parts are links of SVG, which load the page anew. */
  document.addEventListener("alpine:initialized", () => { if (document.getElementById("job")) onwards(); });
  /* Somebody else noted something: the whole job is shown anew, unless something is being typed; then only the drawing,
     the ledger and the title are, and the sheet waits. A request of one's own on its way brings the news itself. */
  const typed = () => {
    const sheet = document.getElementById("main");
    const changed = (e) => (e.type === "radio" || e.type === "checkbox" ? e.checked !== e.defaultChecked : e.value !== e.defaultValue);
    return sheet !== null && [...sheet.querySelectorAll("input:not([type=hidden]), textarea")].some((e) => changed(e) || (e === document.activeElement && e.value));
  };
  const beside = () => {
    htmx.trigger("#aside", "refresh");
    document.getElementById("othersnoted").hidden = false;
  };
  document.addEventListener("htmx:beforeRequest", (event) => {
    if (event.target.id !== "live") return;
    if (document.querySelector("#job.htmx-request, #job .htmx-request:not(#live), #busy.htmx-request")) { event.preventDefault(); return; }
    if (!typed()) return;
    event.preventDefault();
    beside();
  });

  const seen = (text) => parseInt((/name="seen" value="(\d+)"/.exec(text) || [0, "0"])[1], 10);
  document.addEventListener("htmx:beforeSwap", (event) => {
    const config = event.detail.requestConfig;
    if (!config || !config.elt || config.elt.id !== "live") return;
    const newer = seen(event.detail.xhr.responseText) > seen(document.getElementById("job").innerHTML);
    event.detail.shouldSwap = newer && !typed();
    if (newer && typed()) beside();
  });

  /* What goes wrong on the way is said beside the page, which stays as it is with everything typed on it. */
  const trouble = () => document.getElementById("trouble");
  document.addEventListener("htmx:sendError", () => {
    trouble().replaceChildren(Object.assign(document.createElement("p"), { textContent: trouble().dataset.unanswered }));
  });
  document.addEventListener("htmx:beforeRequest", (event) => { if (event.target.id !== "live") trouble().replaceChildren(); });

  /* The answer that was pressed shows that it was, until the next step stands there. */
  const presser = (event) => event.detail.requestConfig.triggeringEvent?.submitter;
  document.addEventListener("htmx:beforeRequest", (event) => presser(event)?.setAttribute("aria-busy", "true"));
  document.addEventListener("htmx:afterRequest", (event) => presser(event)?.removeAttribute("aria-busy"));

  /* A form the browser sends by itself is shown to be on its way like any other; coming back to its page ends that. */
  const busy = () => document.getElementById("busy");
  document.addEventListener("submit", (event) => { if (!event.defaultPrevented && event.target.method === "post") busy().classList.add("htmx-request"); });
  window.addEventListener("pageshow", () => busy().classList.remove("htmx-request"));

  /* A tap on the drawing while marking tells where; the server takes it for the mark's place. */
  let tapped = null;
  document.addEventListener("click", (event) => {
    const drawing = event.target.closest("[data-marking] svg.section");
    if (!drawing) return;
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(drawing.getScreenCTM().inverse());
    tapped = { mx: point.x.toFixed(1), my: point.y.toFixed(1) };
  }, true);
  document.addEventListener("htmx:configRequest", (event) => {
    if (tapped && event.target.closest && event.target.closest("[data-marking] a")) Object.assign(event.detail.parameters, tapped);
    tapped = null;
  });

  /* On the phone a tapped part opens beside the drawing, under "Next". */
  document.addEventListener("click", (event) => {
    if (event.target.closest("svg.section a.part, [data-next-tab]")) sessionStorage.setItem("tab", "next");
  }, true);
  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-print]")) window.print();
    if (event.target.closest("[data-help]")) document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "?", bubbles: true }));
  });
  document.addEventListener("change", (event) => {
    if (event.target.matches("[data-submit]")) event.target.form.requestSubmit();
  });
})();
