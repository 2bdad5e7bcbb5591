//! The page of the largest demo bank, asked by one and by fifty: `cargo xtask bench`.
#![allow(clippy::unwrap_used, clippy::print_stdout, reason = "a measuring program that fails loudly")]

use serde_json::Value;
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::path::Path;
use std::process::{Command, Stdio};
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

/// How long fifty ask.
const WHILE: Duration = Duration::from_mins(1);
const CONNECTIONS: usize = 50;

/// One answer over a connection that is kept; its length.
fn get(stream: &mut TcpStream, host: &str, path: &str) -> usize {
    stream.write_all(format!("GET {path} HTTP/1.1\r\nhost: {host}\r\n\r\n").as_bytes()).unwrap();
    let (mut answer, mut piece) = (Vec::new(), vec![0; 1 << 16]);
    loop {
        let n = stream.read(&mut piece).unwrap();
        assert!(n > 0, "the server hung up");
        answer.extend_from_slice(&piece[..n]);
        let Some(at) = answer.windows(4).position(|w| w == b"\r\n\r\n") else { continue };
        let head = String::from_utf8_lossy(&answer[..at]).to_lowercase();
        assert!(head.starts_with("http/1.1 20"), "{head}");
        let length: usize =
            head.lines().find_map(|l| l.strip_prefix("content-length: ")).unwrap().trim().parse().unwrap();
        if answer.len() >= at + 4 + length {
            return length;
        }
    }
}

fn told(what: &str, mut times: Vec<Duration>, took: Duration) {
    times.sort_unstable();
    let at = |percent: usize| times[(times.len() - 1) * percent / 100];
    let rate = times.len() as u128 * 1000 / took.as_millis();
    println!("{what}: p50 {:?}, p99 {:?}, {rate} a second", at(50), at(99));
}

fn resident(id: u32) -> String {
    let status = std::fs::read_to_string(format!("/proc/{id}/status")).unwrap_or_default();
    status.lines().find_map(|l| l.strip_prefix("VmRSS:")).unwrap_or("unknown").trim().to_owned()
}

fn main() {
    let folder = tempfile::tempdir_in(".").unwrap();
    let program = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../target/release/rainshadow");
    let mut child = Command::new(program)
        .args(["demo", "--today", "2026-10-08", "--listen", "127.0.0.1:0", "--data-dir"])
        .arg(folder.path().join("demo"))
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    let host = line.split("http://").nth(1).unwrap().split('/').next().unwrap().to_owned();
    let runtime = tokio::runtime::Runtime::new().unwrap();
    let client = reqwest::Client::new();
    let banks: Value = runtime
        .block_on(async { client.get(format!("http://{host}/api/banks")).send().await.unwrap().json().await })
        .unwrap();
    let largest =
        banks.as_array().unwrap().iter().max_by_key(|b| b["cells"].as_array().unwrap().len()).unwrap();
    let page = format!("/api/banks/{}", largest["id"].as_str().unwrap());
    let person = |n: usize| format!("http://{host}/api/people/{}", uuid::Uuid::from_u128(n as u128));

    // made anew each time: something is written in between
    let mut stream = TcpStream::connect(&host).unwrap();
    stream.set_nodelay(true).unwrap();
    let mut times = Vec::new();
    for n in 0..200 {
        let body = serde_json::json!({"initials": "TA", "single_keys": true});
        runtime.block_on(async { client.put(person(n)).json(&body).send().await.unwrap() });
        let asked = Instant::now();
        get(&mut stream, &host, &page);
        times.push(asked.elapsed());
    }
    let spent: Duration = times.iter().sum();
    told("bank page of 48 cells after a write, one connection", times, spent);

    let (mut times, begun) = (Vec::new(), Instant::now());
    for _ in 0..2000 {
        let asked = Instant::now();
        get(&mut stream, &host, &page);
        times.push(asked.elapsed());
    }
    told("the same with nothing written, one connection", times, begun.elapsed());

    for (what, writing) in [("nothing written", false), ("five writes a second", true)] {
        let (done, begun) = (AtomicBool::new(false), Instant::now());
        let times: Vec<Duration> = std::thread::scope(|scope| {
            if writing {
                scope.spawn(|| {
                    for n in 1000.. {
                        if done.load(Ordering::SeqCst) {
                            break;
                        }
                        let body = serde_json::json!({"initials": "TA", "single_keys": true});
                        runtime.block_on(async { client.put(person(n)).json(&body).send().await.unwrap() });
                        std::thread::sleep(Duration::from_millis(200));
                    }
                });
            }
            let asking: Vec<_> = (0..CONNECTIONS)
                .map(|_| {
                    let (host, page) = (&host, &page);
                    scope.spawn(move || {
                        let mut stream = TcpStream::connect(host).unwrap();
                        stream.set_nodelay(true).unwrap();
                        let (mut times, begun) = (Vec::new(), Instant::now());
                        while begun.elapsed() < WHILE {
                            let asked = Instant::now();
                            get(&mut stream, host, page);
                            times.push(asked.elapsed());
                        }
                        times
                    })
                })
                .collect();
            let all = asking.into_iter().flat_map(|a| a.join().unwrap()).collect();
            done.store(true, Ordering::SeqCst);
            all
        });
        told(&format!("{CONNECTIONS} connections for a minute, {what}"), times, begun.elapsed());
        println!("memory after it: {}", resident(child.id()));
    }
    child.kill().unwrap();
    child.wait().unwrap();
}
