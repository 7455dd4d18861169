"""Writes a file with its rows in no order, the same one every time. Usage: shuffled.py FILE > SHUFFLED"""
import csv
import random
import sys

with open(sys.argv[1], encoding="utf-8", newline="") as file:
    header, *rows = csv.reader(file, delimiter=";")
random.Random(7).shuffle(rows)
sys.stdout.reconfigure(encoding="utf-8", newline="")
csv.writer(sys.stdout, delimiter=";", lineterminator="\n").writerows([header, *rows])
