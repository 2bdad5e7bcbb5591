//! The look-over: what is looked at, what can be found, and how bad that is.

use crate::battery_model::Construction;
use crate::severity::Severity;
use serde::{Deserialize, Serialize};
use strum::VariantArray;

/// Play in a hold-down that is watched, and that is acted on, mm (common practice, no source).
pub const PLAY_WATCH_MM: f64 = 3.0;
/// A battery that moves this far rubs its cables and shakes its plates, mm (common practice, no
/// source).
pub const PLAY_ACT_MM: f64 = 10.0;
/// Steady volts from a post to a metal tray that are the sign of an acid track (common practice, no
/// source).
pub const TRAY_WATCH_VOLTS: f64 = 0.5;

/// One thing that is looked at.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, VariantArray)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Check {
    /// The case.
    Case,
    /// Its top.
    Top,
    /// Vent caps.
    Caps,
    /// Lid and valves of a sealed battery, which nobody opens.
    Seal,
    /// Posts and lugs.
    Terminals,
    /// Hold-down, mm of play.
    HoldDown,
    /// Air between cases.
    Spacing,
    /// Cables and links.
    Cables,
    /// What a dropped tool could bridge.
    Insulation,
    /// Fuse and disconnect.
    Fuse,
    /// Vent path and fan.
    VentPath,
    /// Temperature sensor.
    Sensor,
    /// What hangs above.
    Above,
    /// Volts from a post to a metal tray.
    Tray,
}

/// Something that can be found.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct FoundKind {
    /// Stable key.
    pub key: &'static str,
    /// How bad it usually is; the technician can say otherwise.
    pub severity: Severity,
}

const fn kind(key: &'static str, severity: Severity) -> FoundKind {
    FoundKind { key, severity }
}

/// The checks of a bank of this construction.
pub fn checks(construction: Construction) -> Vec<Check> {
    let caps = construction.has_caps();
    Check::ALL.iter().copied().filter(|c| if caps { !c.needs_seal() } else { !c.needs_caps() }).collect()
}

/// What was found at a check.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SeenFinding {
    /// Key of the kind.
    pub kind: String,
    /// How bad.
    pub severity: Severity,
    /// In the technician's words.
    #[serde(default)]
    pub note: String,
    /// Play in mm, or volts to the tray, where measured.
    #[serde(default)]
    pub measured: Option<f64>,
}

impl Check {
    /// Every check, in the order the eye goes.
    pub const ALL: &'static [Self] = Self::VARIANTS;

    /// True when only batteries with caps have it.
    pub fn needs_caps(self) -> bool {
        matches!(self, Self::Caps)
    }

    /// True when only sealed batteries have it.
    pub fn needs_seal(self) -> bool {
        matches!(self, Self::Seal)
    }

    /// True for what a bank can be without: where there is none, it is neither fine nor missing.
    pub fn can_be_absent(self) -> bool {
        matches!(self, Self::Fuse | Self::VentPath | Self::Sensor | Self::Above | Self::Tray)
    }

    /// True when it is looked at battery by battery.
    pub fn each_battery(self) -> bool {
        matches!(self, Self::Case | Self::Top | Self::Caps | Self::Seal | Self::Terminals | Self::HoldDown)
    }

    /// What can be found.
    pub fn kinds(self) -> &'static [FoundKind] {
        use Severity::{Act, Watch};
        match self {
            Self::Case => {
                const { &[kind("bulge", Act), kind("crack", Act), kind("leak", Act), kind("hot", Act)] }
            }
            Self::Top => const { &[kind("wet", Watch), kind("dirty", Watch), kind("nest", Watch)] },
            Self::Caps => {
                const {
                    &[
                        kind("missing", Act),
                        kind("loose", Watch),
                        kind("seized", Watch),
                        kind("broken", Watch),
                        kind("dry", Act),
                    ]
                }
            }
            Self::Seal => {
                const { &[kind("opened", Act), kind("dry", Act), kind("refilled", Act), kind("vents", Act)] }
            }
            Self::Terminals => {
                const { &[kind("powder", Watch), kind("green", Watch), kind("loose", Act), kind("burnt", Act)] }
            }
            Self::HoldDown => const { &[kind("play", Watch), kind("missing", Act)] },
            Self::Spacing => const { &[kind("touching", Watch), kind("blocked", Watch)] },
            Self::Cables => {
                const {
                    &[
                        kind("thin_lug", Act),
                        kind("stiff", Watch),
                        kind("hot", Act),
                        kind("bare", Act),
                        kind("pinched", Act),
                        kind("rubbing", Watch),
                    ]
                }
            }
            Self::Insulation => const { &[kind("open_posts", Watch), kind("boot_missing", Watch)] },
            Self::Fuse => const { &[kind("missing", Act), kind("unrated", Act), kind("corroded", Watch)] },
            Self::VentPath => const { &[kind("blocked", Act), kind("nest", Act), kind("fan_dead", Act)] },
            Self::Sensor => const { &[kind("missing", Watch), kind("off", Watch), kind("wrong", Watch)] },
            Self::Above => const { &[kind("object", Act), kind("electronics", Watch)] },
            Self::Tray => const { &[kind("track", Watch)] },
        }
    }

    /// The kind with this key.
    pub fn kind(self, key: &str) -> Option<FoundKind> {
        self.kinds().iter().copied().find(|k| k.key == key)
    }

    /// What is measured at this check, and its unit: play in mm, volts to the tray.
    pub fn measures(self) -> Option<(&'static str, &'static str)> {
        match self {
            Self::HoldDown => Some(("play", "mm")),
            Self::Tray => Some(("volts", "V")),
            _ => None,
        }
    }

    /// How bad a measured value is.
    pub fn judge(self, measured: f64) -> Option<Severity> {
        match self {
            Self::HoldDown => Some(match measured {
                mm if mm >= PLAY_ACT_MM => Severity::Act,
                mm if mm >= PLAY_WATCH_MM => Severity::Watch,
                _ => Severity::Steady,
            }),
            Self::Tray if measured >= TRAY_WATCH_VOLTS => Some(Severity::Watch),
            Self::Tray => Some(Severity::Steady),
            _ => None,
        }
    }
}
