import type { MethodGroup } from './method-entry.ts';

export const recordingMethods: MethodGroup = {
  title: 'Levels from recordings',
  about:
    'A window of a sound file becomes one reading: a level in dB by a calibration, or relative to full scale, where a sample of 1 is 0 dB.',
  entries: [
    {
      name: 'sound-levels',
      label: 'Equivalent, fast, slow, exposure, percentile and peak levels',
      says: 'The mean of the energy; the highest level of a meter that follows within 0.125 s or 1 s; all of the energy as if in one second; the fast level that is exceeded in 10, 50 or 90 % of the time; the largest sample, and with the true peak what lies between samples too.',
      formula:
        'L = 10·lg(mean of p²); exposure L + 10·lg(T/1 s); fast and slow by y ← y + (1 − e^(−Δt/τ))·(p² − y); true peak by a sinc of 24 taps at four times the sample rate',
      source:
        'IEC 61672-1 (from memory); peak and RMS checked with sox stats; the idea of ITU-R BS.1770, annex 2',
      misleads:
        'Where samples are clipped: the level is then at least that, which is said. A highest level grows with the length of the window.',
      example: {
        given: 'a sine of half of full scale, 10 s long',
        gives: 'Peak −6.0 dB, equivalent level −9.0 dB, exposure level 1.0 dB.',
        figures: ['6.0', '9.0', '1.0'],
      },
    },
    {
      name: 'sound-weighting',
      label: 'Weightings A, C and Z, thirds of an octave',
      says: 'A weighs frequencies about as the ear hears quiet sounds, C as it hears loud ones, Z not at all. A third of an octave lets one band through.',
      formula:
        'poles of the A and C curves as digital filters, 0 dB at 1 kHz; Butterworth’s band pass of the sixth order between 10^(∓1/20) times 1000·10^(n/10) Hz',
      source: 'IEC 61672-1 and IEC 61260-1 (from memory); bands checked with SciPy',
      misleads:
        'At sample rates under 40 kHz the highest frequencies are missing, which is said; a band beyond the sample rate is refused.',
      example: {
        given: 'a tone of 100 Hz at 80.0 dB',
        gives: '60.8 dB with A, 79.7 dB with C.',
        figures: ['60.8', '79.7'],
      },
    },
    {
      name: 'sound-background',
      label: 'Background taken off',
      says: 'The level of the quiet stretch next to a sound is taken off by energy where it is 6 to 15 dB lower. Above that nothing is taken off, below it no level is given.',
      formula: 'K₁ = −10·lg(1 − 10^(−0.1·ΔL))',
      source: 'ISO 3744 (from memory)',
      misleads: 'Where the background changes while the item sounds: only the one before it is known.',
      example: {
        given: '60.0 dB with the item, 52.0 dB without',
        gives: 'K₁ = 0.75 dB, so 59.25 dB.',
        figures: ['0.75', '59.25'],
      },
    },
    {
      name: 'sound-events',
      label: 'What sounds in a recording',
      says: 'Wherever the level of a hundredth of a second lies over a threshold, something sounds; what stops for less than a set time is still the same. The threshold is 10 dB over the level that is exceeded in nine tenths of the time, until it is moved. Sounds get the runs to come, one after the other.',
      formula: 'level of 10 ms ≥ threshold; gaps shorter than the set time are closed',
      source: 'common practice, no source',
      misleads:
        'Where a dog barks, or a run is not heard: such sounds are marked by hand before anything is taken.',
      example: {
        given:
          'a background of 30 dB, and sounds of 45 dB from 2 to 3 s and from 3.3 to 4 s, 0.5 s apart at least',
        gives: 'A threshold of 40 dB, and one sound of 2.0 s.',
        figures: ['40', '2.0'],
      },
    },
  ],
};
