//! The words of the cautions. They defer to the maker's manual, local codes and licensed practice.

use crate::battery_model::Construction;
use crate::visit::Caution;

/// What to do, in the imperative.
pub fn caution(caution: Caution, construction: Construction) -> &'static str {
    match caution {
        Caution::Acid if construction.has_caps() => {
            "Goggles or face shield, acid gloves, apron, long sleeves on. Water within reach: acid in the eye is flushed at once for 15 minutes, then a doctor. Bicarbonate for spills, outside the cells only."
        }
        Caution::Acid => {
            "Goggles and gloves on: a cracked sealed case leaks acid too. Water within reach: flush eyes at once for 15 minutes, then a doctor."
        }
        Caution::MetalOff => {
            "Rings, watch and necklace off. Insulated tools only, none laid on the batteries."
        }
        Caution::Ventilated => {
            "Ventilation on and unblocked. No flame, no smoking, no switching near the vents: hydrogen burns from 4 % on."
        }
        Caution::Isolated => {
            "Loads off, chargers off at their source, bank isolated. A reading under charge is wrong and caps spit."
        }
        Caution::HigherVoltage => {
            "This bank passes 60 V DC on charge or equalize. That, and all mains wiring, is work for a qualified person under local rules."
        }
        Caution::WiringOnRecord => {
            "Photograph and label the wiring before anything comes off. Never trust colours: they differ from rig to rig."
        }
        Caution::NegativeFirst => {
            "Where the negative is grounded to the chassis it comes off first and goes on last."
        }
        Caution::HotSealed => {
            "Hot, hissing or swollen: stop the charge at its source or breaker, never at the posts. Ventilate, leave it, do not move or touch it until it is cool. A smell of rotten eggs means get out."
        }
        Caution::Frozen => {
            "Cracked or frozen: do not charge, do not load, do not lift by the posts. Contain the leak; thaw by warming through, inspect, then a slow charge."
        }
        Caution::LooseLugs => {
            "Keep hold of loose lugs; probes on the posts themselves, never across two rows."
        }
        Caution::Samples => "Return each sample to its own cell. Do not lean over an open cell.",
        Caution::PureWater => {
            "Distilled or deionised water only, never acid, never tap. Cover bare plates first; fill to the mark only when charged."
        }
        Caution::NeverOpen => {
            "A sealed battery is never opened. Found opened or refilled: note it, treat its capacity as unproven."
        }
        Caution::SwitchTheLoad => {
            "Clamps on first, then the load at its own switch; off the same way. A clamp lifted under load arcs, and the gas burns. Tester, cables and posts get hot."
        }
        Caution::RechargeAtOnce => {
            "Stay with a discharge to its end, never below the end voltage, and charge within the hour: what stays empty sulfates."
        }
        Caution::ProbeOneJoint => {
            "Both probes on one joint: post and lug of the same bolt, shafts insulated, never across two posts. Feel no lug by hand under load, a hot one burns; switch the load at its own switch."
        }
        Caution::WrenchSlips => {
            "Isolate before a joint is opened or tightened. Insulated torque wrench: one slip across two posts is an arc in hydrogen. The torque in the maker\u{2019}s manual goes before any table."
        }
        Caution::Weight => "Two people or a lift for anything above about 25 kg; keep it upright.",
    }
}
