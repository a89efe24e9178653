// Plays a file in the page, asks how it did, and moves the focus with the four arrows of a remote.
"use strict";

const reachable = () => [...document.querySelectorAll("a, button, video")].filter((one) => one.offsetParent !== null);

function play(link) {
  const item = link.closest("li");
  const video = document.createElement("video");
  video.controls = true;
  video.autoplay = true;
  video.tabIndex = 0;
  video.src = link.href;
  const ask = item.querySelector(".ask");
  // a file that can't be played at all says so by itself; one that does, after a while, or later once it goes smoothly
  const show = () => {
    if (!ask) return;
    ask.hidden = false;
    if (!("answered" in ask.dataset) && cameThrough(video)) tellItPlayed(ask);
  };
  video.addEventListener("error", show);
  video.addEventListener("ended", show);
  video.addEventListener("timeupdate", () => video.currentTime > 8 && show());
  video.addEventListener("loadedmetadata", () => video.scrollIntoView({ block: "center" }));
  link.closest(".acts").after(video);
  link.hidden = true;
  video.focus();
}

const MOST_DROPPED = 0.05;

/** Whether the browser decoded sound, and pictures in time. One that does not count them says nothing. */
function cameThrough(video) {
  const heard = video.webkitAudioDecodedByteCount > 0 || video.mozHasAudio === true;
  if (video.error || !heard) return false;
  if (!video.videoWidth) return true;
  const seen = video.getVideoPlaybackQuality?.();
  return Boolean(seen?.totalVideoFrames) && seen.droppedVideoFrames <= MOST_DROPPED * seen.totalVideoFrames;
}

async function tellItPlayed(ask) {
  ask.dataset.answered = "";
  const answer = await send(ask, null);
  // a person's own answer may have taken the question's place meanwhile
  const question = ask.querySelector("span");
  if (answer?.ok && question) question.textContent = "Pictures and sound came through here, and Rheon knows it. Was it otherwise?";
}

const send = (ask, trouble) =>
  fetch(`${ask.closest("li").dataset.output}/report`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ trouble }),
  }).catch(() => null);

async function report(button) {
  const ask = button.closest(".ask");
  ask.dataset.answered = "";
  const answer = await send(ask, button.dataset.trouble || null);
  ask.textContent = answer?.ok ? "Thank you: the next file will be surer." : "That did not arrive. Is the page still open?";
}

document.addEventListener("click", (event) => {
  const link = event.target.closest("a.play");
  const button = event.target.closest("button[data-trouble]");
  if (link) {
    event.preventDefault();
    play(link);
  } else if (button) report(button);
});

const STEPS = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 };

document.addEventListener("keydown", (event) => {
  const step = STEPS[event.key];
  const inVideo = document.activeElement?.tagName === "VIDEO";
  if (inVideo && event.key === "Enter") {
    const video = document.activeElement;
    video.paused ? video.play() : video.pause();
  }
  // left and right seek in what plays
  if (!step || (inVideo && (event.key === "ArrowLeft" || event.key === "ArrowRight"))) return;
  const all = reachable();
  const at = all.indexOf(document.activeElement);
  const next = all[at < 0 ? 0 : Math.min(Math.max(at + step, 0), all.length - 1)];
  if (!next) return;
  event.preventDefault();
  next.focus();
  next.scrollIntoView({ block: "nearest" });
});
