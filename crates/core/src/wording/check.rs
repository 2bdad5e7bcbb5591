//! The words of the look-over: what is looked at, what can be found, what to do about it, what to carry.

use crate::visit::Check;

/// What is looked at, as asked.
pub fn check(check: Check) -> &'static str {
    match check {
        Check::Case => "Case",
        Check::Top => "Top",
        Check::Caps => "Caps",
        Check::Seal => "Lid and valves",
        Check::Terminals => "Terminals",
        Check::HoldDown => "Hold-down",
        Check::Spacing => "Spacing",
        Check::Cables => "Cables and links",
        Check::Insulation => "Insulation",
        Check::Fuse => "Fuse and disconnect",
        Check::VentPath => "Vent path and fan",
        Check::Sensor => "Temperature sensor",
        Check::Above => "What hangs above",
        Check::Tray => "Volts from post to tray",
    }
}

/// What was found at a check, in words and with what to carry for it; none for a key that is none there.
fn found(check: Check, kind: &str) -> Option<(&'static str, &'static str)> {
    Some(match (check, kind) {
        (Check::Case, "bulge") => ("bulging", ""),
        (Check::Case, "crack") => ("cracked", ""),
        (Check::Case, "leak") => ("leaking", "bicarbonate and absorbent"),
        (Check::Case, "hot") => ("hot to the hand", ""),
        (Check::Top, "wet") => ("wet", "bicarbonate and water"),
        (Check::Top, "dirty") => ("dirty", "rags and bicarbonate"),
        (Check::Top, "nest") => ("nest or droppings", "brush"),
        (Check::Caps, "missing") => ("missing", "vent caps"),
        (Check::Caps, "loose") => ("loose", ""),
        (Check::Caps, "seized") => ("seized", "vent caps"),
        (Check::Caps, "broken") => ("broken", "vent caps"),
        (Check::Caps, "dry") => ("dry inside: no liquid over the plates", "distilled water"),
        (Check::Seal, "opened") => ("opened by somebody", ""),
        (Check::Seal, "dry") => ("dried out", ""),
        (Check::Seal, "refilled") => ("refilled by somebody", ""),
        (Check::Seal, "vents") => ("a valve weeps or has vented", "bicarbonate and absorbent"),
        (Check::Terminals, "powder") => ("white powder", "wire brush, post grease"),
        (Check::Terminals, "green") => ("green copper", "lugs, wire brush"),
        (Check::Terminals, "loose") => ("loose", "torque wrench"),
        (Check::Terminals, "burnt") => ("burnt or melted", "lugs and cable"),
        (Check::HoldDown, "play") => ("it moves", "hold-down hardware"),
        (Check::HoldDown, "missing") => ("missing", "hold-down hardware"),
        (Check::Spacing, "touching") => ("cases touch", "spacers"),
        (Check::Spacing, "blocked") => ("air is blocked", ""),
        (Check::Cables, "thin_lug") => ("thin or sheared lug", "lugs and cable"),
        (Check::Cables, "stiff") => ("stiff or swollen", "cable"),
        (Check::Cables, "hot") => ("hot or discoloured", "lugs and cable"),
        (Check::Cables, "bare") => ("bare copper", "heat-shrink sleeve"),
        (Check::Cables, "pinched") => ("pinched", "cable"),
        (Check::Cables, "rubbing") => ("rubbing", "edge guard"),
        (Check::Insulation, "open_posts") => ("posts a tool could bridge", "post covers"),
        (Check::Insulation, "boot_missing") => ("boot missing", "post covers"),
        (Check::Fuse, "missing") => ("missing", "fuse and holder"),
        (Check::Fuse, "unrated") => ("not rated for the bank", "fuse and holder"),
        (Check::Fuse, "corroded") => ("corroded", "fuse"),
        (Check::VentPath, "blocked") => ("blocked", ""),
        (Check::VentPath, "nest") => ("nested in", "brush"),
        (Check::VentPath, "fan_dead") => ("fan does not run", "fan"),
        (Check::Sensor, "missing") => ("missing", "temperature sensor"),
        (Check::Sensor, "off") => ("fallen off the bank", "sensor tape"),
        (Check::Sensor, "wrong") => ("on another bank", ""),
        (Check::Above, "object") => ("something can fall on it", ""),
        (Check::Above, "electronics") => ("electronics above, corroding", ""),
        (Check::Tray, "track") => ("an acid track", "bicarbonate and water"),
        _ => return None,
    })
}

/// What was found at a check, in words; none for a key that is none there.
pub fn found_kind(check: Check, kind: &str) -> Option<&'static str> {
    found(check, kind).map(|(said, _)| said)
}

/// What to carry for what was found; none: nothing.
pub fn found_spare(check: Check, kind: &str) -> Option<&'static str> {
    found(check, kind).map(|(_, spare)| spare).filter(|spare| !spare.is_empty())
}

/// What to do about what was found: where one kind needs something other than the check does, that.
pub fn found_advice(check: Check, kind: &str) -> &'static str {
    match (check, kind) {
        (Check::Case, "hot") => {
            "Stop the charge at its source or breaker, never at the posts; ventilate, leave it and do not touch it until it is cool. Then find out why, and test it alone."
        }
        (Check::Case, "leak") => {
            "Contain and neutralize what ran out. Isolate it, do not charge it, then take it out of the string."
        }
        (Check::Top, "nest") => {
            "Take it out dry, with a brush or a vacuum kept for it and vents in the room open; never wash it into the caps. Then wipe with bicarbonate in water, caps shut."
        }
        (Check::VentPath, "nest") => {
            "Take it out dry, with a brush or a vacuum, before any charging: hydrogen gathers under a lid. Put a mesh over the end."
        }
        (Check::VentPath, "fan_dead") => {
            "Replace the fan before any charging that gasses: hydrogen gathers under a lid."
        }
        (Check::Caps, "dry") => {
            "Cover the plates with water only, never acid; then a slow charge, and a test before anybody relies on it (RC-1)."
        }
        (Check::Seal, "vents") => {
            "It gassed more than it could take back: what left it does not return. Stop the charge at its source, let it cool, wipe it dry; hold the charger's volts and the case temperature against what the model takes before it is charged again, then read its resistance."
        }
        (Check::Caps, "loose") => "Seat the cap; until it holds, look at this cell's level on every visit.",
        (Check::Above, "electronics") => {
            "Lead the gas away from them first, then have them cleaned, then move them: gas that corrodes them also meets their sparks."
        }
        (Check::Fuse, "corroded") => "Isolate, clean or replace it, and find out where the acid came from.",
        (Check::Cables, "bare") => "Isolate, then cover the copper before anybody works near it.",
        (Check::Cables, "rubbing" | "pinched") => {
            "Lead it clear and guard the edge; where the jacket is cut through, replace the cable before it carries load again."
        }
        _ => check_advice(check),
    }
}

/// What to do about what was found at a check, whatever it is.
pub fn check_advice(check: Check) -> &'static str {
    match check {
        Check::Case => "Take it out of the string; do not charge it. Contain what leaks.",
        Check::Top | Check::Tray => {
            "Clean with bicarbonate in water, caps shut, never a drop inside; rinse, dry, measure again."
        }
        Check::Caps => "Replace the cap; until then look at this cell's level on every visit.",
        Check::Seal => {
            "Gas may escape: ventilate, no spark. It is not opened again and not filled; its capacity is unproven until a load test, then a timed discharge, has shown it. Plan to replace it."
        }
        Check::Terminals => "Clean, dry, reassemble, tighten to the maker's torque, coat after assembly.",
        Check::HoldDown => "Secure it: a battery that moves works its lugs loose and sheds its plates.",
        Check::Spacing => "Give the cases air; a warm middle ages first.",
        Check::Cables => "Remake the lug or the cable before the bank carries load again.",
        Check::Insulation => "Cover the posts.",
        Check::Fuse => "Fit a fuse and a disconnect near the bank, rated for its short-circuit current.",
        Check::VentPath => "Clear it before any charging: hydrogen gathers under a lid.",
        Check::Sensor => {
            "Put it on the case of a middle battery; without it setpoints are wrong in heat and cold."
        }
        Check::Above => "Move it.",
    }
}
