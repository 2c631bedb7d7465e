"""The same work by native OpenCV (Debian's python3-opencv), two threads. Arguments: folder, width, height, runs."""
import json, sys, time
import cv2, numpy as np

folder, width, height, runs = sys.argv[1], int(sys.argv[2]), int(sys.argv[3]), int(sys.argv[4])
cv2.setNumThreads(2)
meta = json.load(open(f"{folder}/set.json"))
frames = [np.fromfile(f"{folder}/{i}.rgb", np.uint8).reshape(height, width, 3) for i in range(len(meta["truth"]))]
truth = [np.array(m).reshape(3, 3) for m in meta["truth"]]


def fit(a, b):
    orb = cv2.ORB_create(4000)
    ka, da = orb.detectAndCompute(cv2.cvtColor(a, cv2.COLOR_RGB2GRAY), None)
    kb, db = orb.detectAndCompute(cv2.cvtColor(b, cv2.COLOR_RGB2GRAY), None)
    if db is None or len(kb) < 8:
        return None
    matches = cv2.BFMatcher(cv2.NORM_HAMMING, True).match(da, db)
    if len(matches) < 8:
        return None
    p = np.float32([ka[m.queryIdx].pt for m in matches])
    q = np.float32([kb[m.trainIdx].pt for m in matches])
    return cv2.findHomography(p, q, cv2.RANSAC, 3)[0]


def warp(frame, m, flag):
    return cv2.warpPerspective(frame, m, (width, height), flags=flag | cv2.WARP_INVERSE_MAP)


def fuse():
    placed = [f if i == 0 else warp(f, truth[i], cv2.INTER_LANCZOS4) for i, f in enumerate(frames)]
    merge = cv2.createMergeMertens(1, 1, 1)
    return merge.process(placed)


def timed(run):
    run()
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        run()
        times.append((time.perf_counter() - start) * 1000)
    return sorted(times)[len(times) // 2]


print(json.dumps({
    "fit": timed(lambda: [fit(frames[0], f) for f in frames[1:]]),
    "fusion": timed(fuse),
    "lanczos": timed(lambda: warp(frames[1], truth[1], cv2.INTER_LANCZOS4)),
    "bilinear": timed(lambda: warp(frames[1], truth[1], cv2.INTER_LINEAR)),
    "fits": [None if m is None else m.flatten().tolist() for m in [fit(frames[0], f) for f in frames[1:]]],
}))
