/* The twelve-step recipe of recipes.py written out by hand, last step first, for a compiler that vectorises:
   cc -O3 -march=native -ffast-math -fopenmp-simd. One float32 pass, in place. k: constants from the forged bar. */
#include <math.h>

#define PI 3.14159265358979f
#define C (1.0f / PI)

/* unit-area square (n = 4) */
static inline void shares4(float y, float z, float w, float *u, float *a) {
    float py = y / w, pz = z / w, q = py * py + pz * pz, t = atan2f(pz, py);
    float k = rintf(t * (2.0f / PI)) * (PI / 2), l = t - k, tan_l = tanf(l);
    float ex = 0.25f * (1.0f + tan_l * tan_l) - C;
    float v = 2.0f * q / (C + sqrtf(fmaxf(C * C + 4.0f * ex * q, 0.0f)));
    v = fminf(v, 1.0f);
    *u = v;
    *a = (1.0f - 2.0f * v) * l + 0.5f * PI * v * tan_l + k;
}

static inline void from4(float u, float a, float w, float *y, float *z) {
    float k = rintf(a * (2.0f / PI)) * (PI / 2), target = a - k, lift = PI / 2;
    float g = target * (4.0f / PI), s = u * (lift - 2.0f);
    g *= g;
    float t = target * (1.0f + (g - 1.0f) * (1.0f + (-0.3f - 0.7f * u) * g) * s / (1.0f + s));
    float tn = tanf(t); /* two rounds of Newton */
    t -= ((1.0f - 2.0f * u) * t + lift * u * tn - target) / (1.0f - 2.0f * u + lift * u * (1.0f + tn * tn));
    tn = tanf(t);
    t -= ((1.0f - 2.0f * u) * t + lift * u * tn - target) / (1.0f - 2.0f * u + lift * u * (1.0f + tn * tn));
    tn = tanf(t);
    float r = sqrtf(u * (C + u * (0.25f * (1.0f + tn * tn) - C)));
    *y = w * r * sinf(t + k + PI / 2); /* cosf of the same angle would be merged to a call that cannot be vectorised */
    *z = w * r * sinf(t + k);
}

void pull(float *restrict px, float *restrict py, float *restrict pz, long n, const float *restrict k) {
#pragma omp simd
    for (long i = 0; i < n; i++) {
        float x = px[i], y = py[i], z = pz[i], u, a;
        x *= k[0]; y *= k[1]; z *= k[2];           /* grind is even on both faces: nothing; draw */
        shares4(y, z, k[3], &u, &a);               /* square <- */
        x *= k[4];                                 /* round, octagon and bias share one disc */
        a -= x * k[5];                             /* twist */
        x *= k[6];
        a -= PI / 4;                               /* turn 45 */
        x *= k[7];
        from4(u, a, 1.0f, &y, &z);
        y *= k[8]; z *= k[9]; x *= k[10];          /* square to the welded rectangle, and the weld */
        float b = z + k[11], j = fminf(fmaxf(floorf(b * k[12]), 0.0f), 1.0f), sign = 1.0f - 2.0f * j;
        z = (b - j * k[13] - k[14]) * sign;        /* restack, the upper piece rolled */
        y *= sign;
        x += j * k[15];
        x *= k[16]; y *= k[17]; z *= k[18];        /* draw */
        px[i] = x * k[19]; py[i] = y; pz[i] = z * k[20]; /* weld */
    }
}
