/* Runs in the browser of whatever device is asked, old ones too: plain ECMAScript 5, no promises taken for granted. */
(function () {
  "use strict";
  var PATIENCE_MS = 9000;
  var FIRST_PATIENCE_MS = 30000; // a clip may have to be made first
  var LEAST_FRAMES = 5;
  var base = location.pathname.replace(/\/$/, "");
  var state = document.getElementById("state");
  var start = document.getElementById("start");
  var list = document.getElementById("list");
  var bar = document.querySelector("#bar span");
  var screenBox = document.getElementById("screen");

  function call(method, path, body, done) {
    var request = new XMLHttpRequest();
    request.open(method, base + path);
    if (body) request.setRequestHeader("Content-Type", "application/json");
    request.onload = function () {
      done(request.status, request.responseText);
    };
    request.onerror = function () {
      done(0, "");
    };
    request.send(body ? JSON.stringify(body) : null);
  }

  /* What the browser says without being tried. */
  function canPlay(clip) {
    var player = document.createElement(clip.kind);
    return player.canPlayType ? player.canPlayType(clip.mime).replace("no", "") : "";
  }

  function sourceSays(clip) {
    var source = window.MediaSource || window.WebKitMediaSource;
    return source && source.isTypeSupported ? !!source.isTypeSupported(clip.mime) : null;
  }

  function capabilities(clip, done) {
    var asked = { type: "file" };
    if (!navigator.mediaCapabilities || !navigator.mediaCapabilities.decodingInfo) return done(null, null);
    if (clip.kind === "video") {
      asked.video = { contentType: clip.mime, width: clip.width, height: clip.height, framerate: clip.rate, bitrate: 4000000 };
    } else {
      asked.audio = { contentType: clip.mime, channels: String(clip.channels), bitrate: 128000, samplerate: 48000 };
    }
    try {
      navigator.mediaCapabilities.decodingInfo(asked).then(
        function (info) { done(!!info.supported, !!info.smooth); },
        function () { done(null, null); }
      );
    } catch (fault) {
      done(null, null);
    }
  }

  function framesOf(player) {
    if (player.getVideoPlaybackQuality) {
      var quality = player.getVideoPlaybackQuality();
      return { all: quality.totalVideoFrames, dropped: quality.droppedVideoFrames };
    }
    if (typeof player.webkitDecodedFrameCount === "number") {
      return { all: player.webkitDecodedFrameCount, dropped: player.webkitDroppedFrameCount || 0 };
    }
    // nothing counts frames here: the time that passes has to do
    return { all: Math.round(player.currentTime * 30), dropped: 0 };
  }

  /* Plays a clip and watches its frames, or its time, advance. */
  function play(clip, patience, done) {
    var player = document.createElement(clip.kind);
    var over = false;
    var timer;
    function end(played) {
      if (over) return;
      over = true;
      clearTimeout(timer);
      var frames = clip.kind === "video" ? framesOf(player) : { all: 0, dropped: 0 };
      player.removeAttribute("src");
      if (player.load) player.load();
      if (player.parentNode) player.parentNode.removeChild(player);
      done({ played: played, frames: frames.all, dropped: frames.dropped });
    }
    function look() {
      if (over) return;
      var moved = player.currentTime > 0.2;
      var seen = clip.kind === "audio" || (player.videoWidth > 0 && framesOf(player).all >= LEAST_FRAMES);
      if ((player.ended || player.currentTime > 0.4) && moved) return end(seen ? "yes" : "no");
      setTimeout(look, 40);
    }
    player.muted = true;
    player.volume = 0;
    player.setAttribute("muted", "");
    player.setAttribute("playsinline", "");
    player.onerror = function () { end("no"); };
    if (clip.kind === "video") screenBox.appendChild(player);
    player.src = base + "/clips/" + clip.id;
    timer = setTimeout(function () { end("no"); }, patience);
    var promise = player.play();
    if (promise && promise.then) {
      promise.then(look, function (fault) {
        // a browser that forbids playing says so by this name; anything else is a format it can't play
        end(fault && fault.name === "NotAllowedError" ? "untried" : "no");
      });
    } else {
      look();
    }
  }

  function line(clip, answer) {
    var item = document.createElement("li");
    var mark = document.createElement("b");
    var words = { yes: "plays", no: "does not play", untried: answer.supported || answer.can_play ? "says it plays" : "not tried" };
    mark.className = answer.played === "untried" ? "said" : answer.played;
    mark.appendChild(document.createTextNode(words[answer.played]));
    item.appendChild(mark);
    item.appendChild(document.createTextNode(clip.text));
    list.insertBefore(item, list.firstChild);
  }

  function ask(clips, at, answers) {
    if (at >= clips.length) return send(answers);
    var clip = clips[at];
    state.textContent = "Trying " + clip.text + " (" + (at + 1) + " of " + clips.length + ")";
    bar.style.width = (100 * at) / clips.length + "%";
    capabilities(clip, function (supported, smooth) {
      play(clip, at < 2 ? FIRST_PATIENCE_MS : PATIENCE_MS + 6000, function (seen) {
        var answer = {
          id: clip.id, can_play: canPlay(clip), source: sourceSays(clip), supported: supported, smooth: smooth,
          played: seen.played, frames: seen.frames, dropped: seen.dropped
        };
        answers.push(answer);
        line(clip, answer);
        ask(clips, at + 1, answers);
      });
    });
  }

  function send(answers) {
    var ratio = window.devicePixelRatio || 1;
    var touch = "ontouchstart" in window || (navigator.maxTouchPoints || 0) > 0;
    bar.style.width = "100%";
    call("POST", "/answers", {
      width: Math.round(screen.width * ratio), height: Math.round(screen.height * ratio), touch: touch, clips: answers
    }, function (status, text) {
      if (status === 200) state.textContent = "Done. The Household page on the computer shows what this device plays; this page can be closed.";
      else state.textContent = text || "Rheon does not answer any more. Open the page again with a new code.";
    });
  }

  start.onclick = function () {
    start.disabled = true;
    call("GET", "/clips.json", null, function (status, text) {
      if (status !== 200) {
        state.textContent = text || "Rheon does not answer.";
        start.disabled = false;
        return;
      }
      ask(JSON.parse(text).clips, 0, []);
    });
  };
})();
