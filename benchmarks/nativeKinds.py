"""The same sets by native OpenCV and NumPy, two threads. Arguments: folder, kind, count, width, height, runs, stops of a bracket."""
import json, resource, sys, time
import cv2, numpy as np

folder, kind = sys.argv[1], sys.argv[2]
count, width, height, runs = map(int, sys.argv[3:7])
cv2.setNumThreads(2)
# with the seed that it starts from, the adjustment of the panorama's cameras fails
cv2.setRNGSeed(1)
frames = [np.fromfile(f"{folder}/{i}.rgb", np.uint8).reshape(height, width, 3) for i in range(count)]
middle = count // 2


def panorama():
    start = time.perf_counter()
    stitcher = cv2.Stitcher_create(cv2.Stitcher_PANORAMA)
    # features, matches, bundle adjustment and straightening at its own working size; then seams and bands at full size
    status = stitcher.estimateTransform(frames)
    fitted = time.perf_counter()
    if status == 0:
        stitcher.setCompositingResol(-1)
        status, _ = stitcher.composePanorama()
    if status != 0:
        raise RuntimeError(status)
    return fitted - start, time.perf_counter() - fitted


def matched(a, b):
    orb = cv2.ORB_create(4000)
    ka, da = orb.detectAndCompute(cv2.cvtColor(a, cv2.COLOR_RGB2GRAY), None)
    kb, db = orb.detectAndCompute(cv2.cvtColor(b, cv2.COLOR_RGB2GRAY), None)
    matches = cv2.BFMatcher(cv2.NORM_HAMMING, True).match(da, db)
    return np.float32([ka[m.queryIdx].pt for m in matches]), np.float32([kb[m.trainIdx].pt for m in matches])


def bracket():
    start = time.perf_counter()
    maps = [cv2.findHomography(*matched(frames[0], f), cv2.RANSAC, 3)[0] for f in frames[1:]]
    fitted = time.perf_counter()
    flags = cv2.INTER_LANCZOS4 | cv2.WARP_INVERSE_MAP
    placed = [frames[0], *[cv2.warpPerspective(f, m, (width, height), flags=flags) for f, m in zip(frames[1:], maps)]]
    cv2.createMergeMertens(1, 1, 1).process(placed)
    return fitted - start, time.perf_counter() - fitted


def similarity(a, b):
    return cv2.estimateAffinePartial2D(*matched(a, b), method=cv2.RANSAC, ransacReprojThreshold=3)[0]


def fitted_frames():
    start = time.perf_counter()
    maps = [None if i == middle else similarity(frames[middle], f) for i, f in enumerate(frames)]
    fitted = time.perf_counter()
    flags = cv2.INTER_LANCZOS4 | cv2.WARP_INVERSE_MAP
    placed = [f if m is None else cv2.warpAffine(f, m, (width, height), flags=flags) for f, m in zip(frames, maps)]
    return start, fitted, placed


def focus():
    start, fitted, placed = fitted_frames()
    energy = []
    for f in placed:
        g = cv2.GaussianBlur(cv2.cvtColor(f, cv2.COLOR_RGB2GRAY), (3, 3), 0).astype(np.float32)
        energy.append(cv2.GaussianBlur(cv2.Laplacian(g, cv2.CV_32F, ksize=5) ** 2, (9, 9), 0))
    best = np.argmax(np.stack(energy), axis=0)
    np.take_along_axis(np.stack(placed), best[None, :, :, None], axis=0)
    return fitted - start, time.perf_counter() - fitted


def stack():
    start, fitted, placed = fitted_frames()
    cube = np.stack(placed).astype(np.float32)
    for _ in range(1):
        mean, deviation = cube.mean(axis=0), cube.std(axis=0)
        kept = np.abs(cube - mean) <= 2.5 * deviation + 1e-3
        (cube * kept).sum(axis=0) / np.maximum(1, kept.sum(axis=0))
    return fitted - start, time.perf_counter() - fitted


run = {"bracket": bracket, "panorama": panorama, "focus": focus, "stack": stack}[kind]
if runs > 1:
    run()
times = [run() for _ in range(runs)]
fit, merge = min(times, key=sum)
peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
print(json.dumps({"fit": fit * 1000, "merge": merge * 1000, "peakMb": peak}))
