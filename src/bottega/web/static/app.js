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
  const LEAST_LIGHT = 30;
  const pressed = (event) => {
    if (event.key !== "Enter" && event.key !== " ") return false;
    event.preventDefault();
    return true;
  };

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
        if (key === " " && document.querySelector("[data-foot]") && !event.target.closest("button, a, summary, input") && act("k")) { event.preventDefault(); return; }
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

    /* A panel that is read: tapped along with, or touched where it is lit; what it may be is worked out by the server. */
    Alpine.data("panel", () => ({
      off: false,
      rounds: [[]],
      began: 0,
      silence: 0,
      held: null,
      page: 0,
      pages: [],
      init() { this.wipe(); },
      destroy() { clearTimeout(this.silence); this.unwatch(); },
      drawing() { return this.$root.querySelector(".face-read"); },
      heard() { return this.$root.querySelector("[data-heard]"); },
      ask(name, text) {
        const address = this.$root.querySelector("[data-ask]").dataset.ask;
        htmx.ajax("GET", `${address}&${name}=${encodeURIComponent(text)}`, { target: this.heard(), swap: "innerHTML" });
      },
      tap(event) {
        if (event.type === "click" && event.detail !== 0) return;
        this.begins(event.timeStamp, event.currentTarget.dataset.lamp);
      },
      begins(now, lamp) {
        const round = this.rounds.at(-1);
        if (round.length === 0) this.began = now;
        this.held = { lamp, at: Math.round(now - this.began), lit: 0 };
        round.push(this.held);
        this.wait();
      },
      release(event) {
        if (!this.held) return;
        this.held.lit = Math.max(1, Math.round(event.timeStamp - this.began) - this.held.at);
        this.held = null;
        this.wait();
      },
      wait() {
        clearTimeout(this.silence);
        this.silence = setTimeout(() => (this.held ? this.wait() : this.hear()), SILENCE_MS);
      },
      /* The camera: the brightness of a spot that is touched on its picture, told from dark halfway between the two; it stays in this browser. */
      video() { return this.$root.querySelector("[data-camera] video"); },
      get blind() { return !navigator.mediaDevices?.getUserMedia; },
      async watch() {
        const video = this.video();
        if (video.srcObject) { this.unwatch(); return; }
        try {
          video.srcObject = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" }, audio: false });
        } catch {
          this.$root.querySelector("[data-camera] p").textContent = "The camera is not to be had. Tap along instead.";
          return;
        }
        video.hidden = false;
        await video.play();
        this.spot = [0.5, 0.5];
        this.glow = null;
        this.keepLooking();
      },
      unwatch() {
        const video = this.video();
        video?.srcObject?.getTracks().forEach((track) => track.stop());
        if (video) { video.srcObject = null; video.hidden = true; }
        this.release({ timeStamp: performance.now() });
      },
      aim(event) {
        const box = event.currentTarget.getBoundingClientRect();
        this.spot = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
        this.glow = null;
      },
      keepLooking() {
        const video = this.video();
        if (!video?.srcObject) return;
        const eye = (this.eye ||= Object.assign(document.createElement("canvas"), { width: 8, height: 8 }));
        const pen = eye.getContext("2d", { willReadFrequently: true });
        const size = Math.min(video.videoWidth, video.videoHeight) / 12;
        if (size) {
          pen.drawImage(video, this.spot[0] * video.videoWidth - size / 2, this.spot[1] * video.videoHeight - size / 2, size, size, 0, 0, 8, 8);
          const points = pen.getImageData(0, 0, 8, 8).data;
          this.see(points.reduce((sum, value, n) => (n % 4 === 3 ? sum : sum + value), 0) / (64 * 3), performance.now());
        }
        requestAnimationFrame(() => this.keepLooking());
      },
      see(bright, now) {
        const seen = (this.glow ||= { dark: bright, lit: bright, on: false });
        seen.dark = Math.min(bright, seen.dark + 0.05);
        seen.lit = Math.max(bright, seen.lit - 0.05);
        const span = seen.lit - seen.dark;
        if (span < LEAST_LIGHT) return;
        const share = (bright - seen.dark) / span;
        if (!seen.on && share > 0.6) { seen.on = true; this.begins(now, "0"); }
        if (seen.on && share < 0.4) { seen.on = false; this.release({ timeStamp: now }); }
      },
      another() { this.hear(); if (this.rounds.at(-1).length) this.rounds.push([]); },
      clear() { this.rounds = [[]]; this.wipe(); this.heard().replaceChildren(); },
      hear() {
        clearTimeout(this.silence);
        const rhythm = this.rounds.filter((round) => round.length).map((round) => round.map((tap) => `${tap.lamp}:${tap.at}:${tap.lit}`).join(" ")).join("/");
        if (rhythm) this.ask("rhythm", rhythm);
      },
      wipe() {
        const drawing = this.drawing();
        if (!drawing) return;
        const pages = Math.max(1, this.$root.querySelectorAll("[data-page]").length);
        this.pages = Array.from({ length: pages }, () => null);
        this.page = 0;
        this.paint();
      },
      /* A page nobody has touched yet is not known; one that was is dark where nothing is lit. */
      paint() {
        const drawing = this.drawing();
        const page = this.pages[this.page];
        drawing.querySelectorAll("[data-lamp-at]").forEach((lamp) => {
          const state = page ? page[lamp.dataset.lampAt] : "0";
          lamp.dataset.state = state;
          lamp.setAttribute("aria-label", `${lamp.dataset.name}: ${{ 0: "dark", 1: "lit", 2: "blinking" }[state] || "unsure"}`);
        });
        drawing.querySelectorAll("[data-length], [data-bar]").forEach((part) => { part.dataset.state = "0"; part.setAttribute("aria-checked", "false"); });
        this.$root.querySelectorAll("[data-page]").forEach((button) => button.setAttribute("aria-pressed", String(Number(button.dataset.page) === this.page)));
        this.$root.querySelectorAll("[data-tone]").forEach((button) => button.setAttribute("aria-pressed", "false"));
      },
      turn(event) { this.page = Number(event.currentTarget.dataset.page); this.touched(); this.paint(); this.look(); },
      touched() {
        const lamps = this.drawing().querySelectorAll("[data-lamp-at]").length;
        this.pages[this.page] ||= Array.from({ length: lamps }, () => "0");
      },
      light(event) {
        const lamp = event.currentTarget;
        const states = [..."012".slice(0, Number(this.drawing().dataset.states)), "?"];
        this.touched();
        const page = this.pages[this.page];
        page[lamp.dataset.lampAt] = states[(states.indexOf(page[lamp.dataset.lampAt]) + 1) % states.length];
        this.paint();
        this.look();
      },
      lighted(event) { if (pressed(event)) this.light(event); },
      look() {
        const lamps = this.drawing().querySelectorAll("[data-lamp-at]").length;
        this.ask("lit", this.pages.map((page) => (page || Array.from({ length: lamps }, () => "?")).join("")).join("/"));
      },
      reach(event) {
        const length = Number(event.currentTarget.dataset.length);
        this.drawing().querySelectorAll("[data-length]").forEach((part) => { part.dataset.state = Number(part.dataset.length) <= length ? "1" : "0"; });
        this.sound();
      },
      reached(event) { if (pressed(event)) this.reach(event); },
      tone(event) {
        this.$root.querySelectorAll("[data-tone]").forEach((button) => button.setAttribute("aria-pressed", String(button === event.currentTarget)));
        this.sound();
      },
      sound() {
        const tone = this.$root.querySelector("[data-tone][aria-pressed=true]");
        const length = this.drawing().querySelectorAll("[data-length][data-state='1']").length;
        this.ask("lit", `${tone ? tone.dataset.tone : "?"}/${length || "?"}`);
      },
      strike(event) {
        const bar = event.currentTarget;
        bar.dataset.state = bar.dataset.state === "1" ? "0" : "1";
        bar.setAttribute("aria-checked", String(bar.dataset.state === "1"));
        const digits = [...this.drawing().querySelectorAll("[data-digit]")];
        this.ask("bars", digits.map((digit) => [...digit.querySelectorAll("[data-state='1']")].map((part) => part.dataset.bar).join("")).join("/"));
      },
      struck(event) { if (pressed(event)) this.strike(event); },
      take(event) {
        const lines = [...this.$root.querySelectorAll("input[name^=seen_]")];
        const free = lines.find((line) => !line.value);
        if (free) free.value = event.currentTarget.dataset.written;
        this.$root.querySelector("[data-keep]")?.focus();
        this.clear();
      },
    }));

    /* The lamp test: everything is lit, and what stays dark is touched. */
    Alpine.data("lamptest", () => ({
      off: false,
      dark: [],
      init() { this.$root.querySelectorAll(".face-read [tabindex]").forEach((part) => { part.dataset.state = "1"; }); },
      light(event) {
        const part = event.currentTarget;
        const name = part.dataset.name || part.getAttribute("aria-label");
        part.dataset.state = part.dataset.state === "1" ? "0" : "1";
        this.dark = part.dataset.state === "1" ? this.dark.filter((other) => other !== name) : [...this.dark, name];
        this.$root.querySelector("[data-dark]").value = this.dark.join("; ");
      },
      lighted(event) { if (pressed(event)) this.light(event); },
      strike(event) { this.light(event); },
      struck(event) { this.lighted(event); },
      reach(event) { this.light(event); },
      reached(event) { this.lighted(event); },
    }));

    /* Something turned by hand: the hand pulls as a spring, the part follows where it is stronger than what holds it back, and what lies in between is felt as steps. */
    Alpine.data("handwheel", () => ({
      nm: [],
      hand: 0,
      part: 0,
      steps: 0,
      held: null,
      told: "not turned yet",
      init() {
        this.nm = JSON.parse(this.$root.dataset.nm);
        this.drag_nm = this.nm.reduce((sum, nm) => sum + nm, 0) / this.nm.length;
        this.pull = Math.max(...this.nm, 0.01) / 18;
      },
      at(event) {
        const box = this.$root.querySelector("svg").getBoundingClientRect();
        return 90 + Math.atan2(event.clientY - box.top - box.height / 2, event.clientX - box.left - box.width / 2) * 180 / Math.PI;
      },
      take(event) {
        event.currentTarget.setPointerCapture(event.pointerId);
        this.held = this.at(event);
      },
      drag(event) {
        if (this.held === null) return;
        const now = this.at(event);
        this.turn(((now - this.held + 540) % 360) - 180);
        this.held = now;
      },
      let() {
        this.held = null;
        this.hand = this.part;
        this.paint();
      },
      key(event) {
        const by = { ArrowRight: 5, ArrowUp: 5, ArrowLeft: -5, ArrowDown: -5 }[event.key];
        if (!by) return;
        event.preventDefault();
        this.turn(by);
      },
      holds(way) {
        const nm = this.nm[((Math.floor(this.part / 360 * this.nm.length) % this.nm.length) + this.nm.length) % this.nm.length];
        return way > 0 ? nm : 2 * this.drag_nm - nm;
      },
      turn(degrees) {
        this.hand += degrees;
        const way = Math.sign(this.hand - this.part), before = this.part;
        while (way && (this.hand - this.part) * way > 0 && this.pull * (this.hand - this.part) * way > this.holds(way)) this.part += way;
        if (Math.abs(this.part - before) > 12 && Math.abs(degrees) < 12) {
          this.steps += 1;
          navigator.vibrate?.(15);
        }
        this.paint();
      },
      paint() {
        const svg = this.$root.querySelector("svg");
        svg.querySelector("[data-part]").setAttribute("transform", `rotate(${this.part})`);
        svg.querySelector("[data-hand]").setAttribute("transform", `rotate(${this.hand})`);
        const stood = Math.round(((this.part % 360) + 360) % 360);
        this.told = `${stood}°, ${this.steps} steps felt, hand ${Math.round(Math.abs(this.hand - this.part))}° ahead`;
        svg.setAttribute("aria-valuenow", String(stood));
        svg.setAttribute("aria-valuetext", this.told);
      },
    }));

    /* What the panel of a machine on the rig shows: strokes and flashes at their times, lamps that are lit, characters. */
    Alpine.data("rigpanel", () => ({
      timers: [],
      init() {
        const text = this.$root.dataset.schedule;
        if (text) this.play(JSON.parse(text));
      },
      destroy() { this.timers.forEach(clearTimeout); },
      lamp(n) { return this.$root.querySelectorAll(".face [data-lamp-at], .face [data-name]")[n]; },
      set(element, state) { if (element) element.dataset.state = state; },
      play(shown) {
        const end = 4 + Math.max(0, ...shown.taps.map(([at]) => at));
        shown.taps.forEach(([at, lamp, lit]) => {
          this.later(at, () => this.set(this.lamp(lamp), 1));
          this.later(at + lit, () => this.set(this.lamp(lamp), 0));
        });
        if (shown.kind === "bar") this.bar(shown.lit);
        else shown.lit.forEach((page, n) => this.later(3 * n, () => page.forEach((state, at) => this.set(this.lamp(at), state))));
        shown.bars.forEach((bars, place) => [...bars].forEach((bar) => this.set(this.$root.querySelectorAll("[data-digit]")[place]?.querySelector(`[data-bar="${bar}"]`), 1)));
        if (shown.taps.length) this.later(end, () => this.play(shown));
      },
      bar(lit) {
        const length = lit.at(-1)[0];
        this.$root.querySelectorAll("[data-length]").forEach((e) => this.set(e, Number(e.dataset.length) <= length ? 1 : 0));
      },
      later(seconds, what) { this.timers.push(setTimeout(what, 1000 * seconds)); },
    }));

    /* A soak: counts down to its end, then says so, in words, by a tone, and aloud. */
    Alpine.data("soak", () => ({
      timer: 0,
      init() {
        this.ends = performance.now() + 60000 * Number(this.$root.dataset.minutes);
        if (Number(this.$root.dataset.minutes) > 0) this.timer = setInterval(() => this.tell(), 1000);
      },
      destroy() { clearInterval(this.timer); },
      tell() {
        const left = (this.ends - performance.now()) / 60000;
        const shown = this.$root.querySelector("[data-shown]");
        if (left > 0) { shown.textContent = left >= 1 ? `soaks ${Math.ceil(left)} min yet.` : "soaks less than a minute yet."; return; }
        clearInterval(this.timer);
        shown.textContent = "it has soaked.";
        this.$root.dataset.over = "";
        if (window.speechSynthesis) speechSynthesis.speak(new SpeechSynthesisUtterance(this.$root.dataset.words));
      },
    }));

    Alpine.data("aloud", () => ({
      off: !window.speechSynthesis,
      say() { speechSynthesis.cancel(); speechSynthesis.speak(new SpeechSynthesisUtterance(this.$root.dataset.words)); },
    }));

    /* A stopwatch: one press starts it, the next stops it; what it shows goes along with the answer. Of one that goes with a tap,
       the press is the tap's: the other's stays shut while it runs. */
    Alpine.data("stopwatch", () => ({
      off: false,
      starts: "",
      since: 0,
      timer: 0,
      destroy() { clearInterval(this.timer); },
      press() {
        const { tap } = this.$root.dataset, other = tap && this.$root.closest("form").querySelector("[data-runs]");
        if (other && other !== this.$root) { this.part("shown").textContent = `First shut the ${other.dataset.tap} tap`; return; }
        clearInterval(this.timer);
        if (this.since) { this.show(); this.since = 0; delete this.$root.dataset.runs; this.name(this.starts); return; }
        this.starts ||= this.part("watch").textContent;
        this.since = performance.now();
        this.$root.dataset.runs = "";
        this.name(tap ? `Shut the ${tap} tap` : "Stop the watch");
        this.show();
        this.timer = setInterval(() => this.show(), 500);
      },
      part(name) { return this.$root.querySelector(`[data-${name}]`); },
      name(words) { this.part("watch").textContent = words; },
      show() {
        const seconds = Math.round((performance.now() - this.since) / 1000);
        const limit = Number(this.$root.dataset.limit || Infinity);
        if (seconds > limit) this.$root.dataset.over = "";
        this.part("shown").textContent = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
        const into = this.$root.dataset.into;
        (into ? this.$root.closest("form").elements[into] : this.$root.querySelector("[data-seconds]")).value = seconds;
      },
    }));

    /* The meter: what it shows as it comes, a tone when it has settled; kept by a press, or by touching the points again. */
    Alpine.data("meter", () => ({
      source: null,
      dead: false,
      off: true,
      typed: "",
      done: false,
      last: "",
      trace: [],
      init() { if (this.$root.dataset.listen !== undefined) this.listen(); },
      destroy() { this.source?.close(); },
      part(name) { return this.$root.querySelector(`[data-${name}]`); },
      form() { return this.$root.closest("form"); },
      listen() {
        this.audio ||= window.AudioContext ? new AudioContext() : null;
        this.source?.close();
        this.off = false;
        this.source = new EventSource(this.$root.dataset.stream);
        this.source.addEventListener("reading", (event) => this.hear(JSON.parse(event.data)));
        this.source.onerror = () => this.show({ state: "gone", words: "", figure: "no reading", symbol: "", verdict: "", typed: "", trouble: "Bottega does not answer. Typing works all the same once it does." });
      },
      stop() { this.source?.close(); this.source = null; this.off = true; },
      hear(reading) {
        this.show(reading);
        if (reading.keep && !this.done && this.typed) { this.keep(); return; }
        this.typed = reading.typed;
        if (reading.state === "settled" && this.last !== "settled") {
          this.tone(reading.good);
          this.say(`${reading.figure} ${reading.symbol}, ${reading.verdict}`);
          this.done = false;
        }
        this.last = reading.state;
        if (this.$root.dataset.walk !== undefined && reading.state === "lifted" && reading.typed && !this.done) this.keep();
      },
      show(reading) {
        ["figure", "symbol", "words", "verdict", "trouble"].forEach((name) => { this.part(name).textContent = reading[name]; });
        this.part("keep").disabled = !reading.typed;
        this.$root.dataset.state = reading.state;
        this.draw(parseFloat(reading.figure));
      },
      draw(amount) {
        this.trace = Number.isFinite(amount) ? [...this.trace.slice(-79), amount] : [];
        const least = Math.min(...this.trace), span = Math.max(...this.trace) - least || 1;
        this.part("trace").setAttribute("d", this.trace.map((y, x) => `${x ? "L" : "M"}${(x * 300 / 79).toFixed(1)} ${(36 - 32 * (y - least) / span).toFixed(1)}`).join(""));
      },
      keep() {
        if (!this.typed) return;
        this.done = true;
        const fields = [...this.form().querySelectorAll("[data-probe]")];
        const field = fields.find((e) => !e.value) || fields[0];
        field.value = this.typed;
        const wire = this.form().elements.wire;
        if (wire) {
          wire.value = "yes";
          field.addEventListener("input", () => { wire.value = ""; }, { once: true });
        }
        const plug = this.form().querySelector("[data-pins]");
        if (plug) plug.dataset.at = fields.filter((e) => e.value).length;
        if (fields.every((e) => e.value)) { this.stop(); this.form().requestSubmit(this.form().querySelector("[data-keeps]")); }
      },
      tone(good) {
        if (!this.audio) return;
        const tone = this.audio.createOscillator(), volume = this.audio.createGain();
        tone.frequency.value = good ? 880 : 440;
        volume.gain.value = 0.2;
        tone.connect(volume).connect(this.audio.destination);
        tone.start();
        tone.stop(this.audio.currentTime + 0.15);
      },
      say(words) {
        if (this.part("aloud")?.checked && window.speechSynthesis) speechSynthesis.speak(new SpeechSynthesisUtterance(words));
      },
    }));

    /* What is counted by pressing: bobs, clicks, detents. */
    Alpine.data("counter", () => ({
      off: false,
      press() {
        const field = this.$root.querySelector("[data-count]");
        field.value = (parseInt(field.value, 10) || 0) + 1;
      },
    }));

    /* The way in: a beat seen on the drawing, heard, and felt on a phone; steps without a beat wait for a press. */
    Alpine.data("coach", () => ({
      off: false,
      step: -1,
      struck: 0,
      began: 0,
      pace: 1,
      timer: 0,
      audio: null,
      destroy() { clearTimeout(this.timer); },
      steps() { return [...this.$root.querySelectorAll("[data-step]")]; },
      parts() { return [...document.querySelectorAll(".face [data-part]")]; },
      slower() { this.pace *= 1.25; this.say(); },
      faster() { this.pace *= 0.8; this.say(); },
      stop() { clearTimeout(this.timer); this.step = -1; this.mark(); this.say(); },
      next() {
        clearTimeout(this.timer);
        const late = this.late();
        this.audio ||= window.AudioContext ? new AudioContext() : null;
        this.step = (this.step + 1) % (this.steps().length + 1);
        if (this.step === this.steps().length) { this.stop(); return; }
        this.struck = 0;
        this.began = performance.now();
        this.mark();
        this.point();
        const beat = Number(this.now().dataset.beat);
        if (beat) this.timer = setTimeout(() => this.strike(), 1000 * beat * this.pace);
        this.say(late);
      },
      /* What took longer than its window is said: the machine will hardly have waited. */
      late() {
        const within = this.step < 0 ? 0 : Number(this.now()?.dataset.within);
        const took = (performance.now() - this.began) / 1000;
        return within && took > within ? `That took ${Math.round(took)} s of ${within}: begin anew. ` : "";
      },
      now() { return this.steps()[this.step]; },
      strike() {
        const { beat, times, clicks } = this.now().dataset;
        this.struck += 1;
        this.sound();
        if (navigator.vibrate) navigator.vibrate(60);
        if (Number(clicks)) this.click(Math.sign(Number(clicks)));
        const asked = this.parts().filter((part) => part.classList.contains("is-asked"));
        asked.forEach((part) => part.classList.add("is-struck"));
        setTimeout(() => asked.forEach((part) => part.classList.remove("is-struck")), 180);
        this.say();
        if (this.struck < Number(times)) this.timer = setTimeout(() => this.strike(), 1000 * Number(beat) * this.pace);
        else this.timer = setTimeout(() => this.next(), 1000 * Number(beat) * this.pace);
      },
      sound() {
        if (!this.audio) return;
        const tone = this.audio.createOscillator();
        const volume = this.audio.createGain();
        volume.gain.value = 0.15;
        tone.connect(volume).connect(this.audio.destination);
        tone.frequency.value = 880;
        tone.start();
        tone.stop(this.audio.currentTime + 0.06);
      },
      mark() {
        const wanted = this.step < 0 ? [] : this.now().dataset.at.split("|");
        this.parts().forEach((part) => part.classList.toggle("is-asked", part.dataset.part !== "" && wanted.includes(part.dataset.part)));
        this.steps().forEach((step, n) => (n === this.step ? step.setAttribute("aria-current", "step") : step.removeAttribute("aria-current")));
      },
      /* The pointer stands at the named place, or goes so many clicks on. */
      point() {
        const place = this.parts().find((part) => part.dataset.degrees && part.classList.contains("is-asked"));
        if (place) this.rotate(Number(place.dataset.degrees));
      },
      click(way) {
        const places = this.pointer()?.closest(".face").querySelectorAll("[data-degrees]").length;
        this.rotate(this.degrees() + (way * 360) / Math.max(1, places));
      },
      pointer() { return document.querySelector(".face [data-pointer]"); },
      degrees() { return Number(this.pointer()?.dataset.at || 0); },
      rotate(degrees) {
        document.querySelectorAll(".face [data-pointer]").forEach((pointer) => {
          pointer.dataset.at = degrees;
          pointer.setAttribute("transform", `rotate(${degrees} ${pointer.dataset.pointer})`);
        });
      },
      say(before = "") {
        const said = this.$root.querySelector("[data-said]");
        const seconds = this.step < 0 ? "" : this.now().dataset.beat;
        if (this.step < 0) said.textContent = this.pace === 1 ? "" : `The beat is ${Math.round(100 / this.pace)} % of the sheet's.`;
        else said.textContent = before + (seconds ? `${this.struck} of ${this.now().dataset.times}` : "Press Next step when it is done.");
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

  /* What is pressed again and again keeps the focus, what it has become where it is gone, and what was unfolded stays so. */
  let pressed_last = null, unfolded = [];
  document.addEventListener("htmx:beforeRequest", (event) => {
    const button = event.target.querySelector?.(":scope > [data-again]");
    if (!button) return;
    pressed_last = button.dataset.again;
    unfolded = [...document.querySelectorAll("details[open][data-stays]")].map((part) => part.dataset.stays);
  });
  const again = () => {
    const last = pressed_last;
    pressed_last = null;
    if (last === null) return;
    unfolded.forEach((name) => document.querySelector(`details[data-stays="${name}"]`)?.setAttribute("open", ""));
    if (document.querySelector("#main [role=alert]")) return;
    const buttons = [...document.querySelectorAll("#main [data-again]:not(:disabled)")];
    const same = buttons.find((b) => b.dataset.again === last) || buttons.find((b) => b.dataset.again.split(" ")[0] === last.split(" ")[0]);
    same?.focus({ preventScroll: true });
  };

  /* After a swap the focus is where the work goes on: at a question, at what was refused, at the new step; on the phone at the tab that is open. */
  const places = ["[role=alertdialog] .btn-first", "label:has(+ [data-field-error]) input", "#main [role=alert]", "[data-focus]", "[aria-label^=Entries]"];
  const onwards = () => {
    for (const place of places) {
      if (document.activeElement.closest("#main, input, textarea, select")) return;
      document.querySelector(place)?.focus({ preventScroll: true });
    }
  };
  document.addEventListener("htmx:afterSettle", (event) => {
    if (event.target.id === "main") again();
    onwards();
    const frame = document.getElementById("job");
    if (frame) show(frame, sessionStorage.getItem("tab") || "next");
  });
  /* The drawing's parts are links of SVG, which load the page anew. */
  document.addEventListener("alpine:initialized", () => { if (document.getElementById("job")) onwards(); document.documentElement.dataset.listens = ""; });
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

  document.addEventListener("htmx:beforeSwap", (event) => {
    const config = event.detail.requestConfig;
    if (!config || !config.elt || config.elt.id !== "live") return;
    const here = Number(document.querySelector("#job [name=seen]")?.value ?? 0);
    const newer = Number(event.detail.xhr.getResponseHeader("Bottega-Seen") ?? 0) > here;
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

  /* A large file shows how much of it is sent, and then that it is read. */
  const sending = (event) => event.target.closest?.("[data-sends]")?.querySelector("[data-sending]");
  document.addEventListener("htmx:beforeRequest", (event) => { const part = sending(event); if (part) { part.hidden = false; part.querySelector("[data-reading]").hidden = true; part.scrollIntoView({ block: "nearest" }); } });
  document.addEventListener("htmx:xhr:progress", (event) => {
    const part = sending(event);
    if (!part || !event.detail.lengthComputable || event.detail.loaded < part.querySelector("progress").value * event.detail.total) return;
    part.querySelector("progress").value = event.detail.loaded / event.detail.total;
    part.querySelector("[data-reading]").hidden = event.detail.loaded < event.detail.total;
  });
  document.addEventListener("htmx:afterRequest", (event) => { const part = sending(event); if (part) { part.hidden = true; part.querySelector("progress").removeAttribute("value"); } });

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
